/** After a form was refused: the first field that is wrong takes the focus, where it can be seen. */
export const focusWrong = () =>
  setTimeout(() => {
    const first = document.querySelector<HTMLElement>('[aria-invalid="true"]');
    first?.closest("details")?.setAttribute("open", "");
    first?.scrollIntoView({ block: "nearest" });
    first?.focus();
  }, 0);
