/** Frames it may take until what is wrong is shown. */
const FRAMES = 20;

/** After a form was refused: the first field that is wrong takes the focus, where it can be seen. */
export function focusWrong(): void {
  const look = (left: number) => {
    const first = document.querySelector<HTMLElement>('[aria-invalid="true"]');
    if (first) {
      first.closest("details")?.setAttribute("open", "");
      first.scrollIntoView({ block: "nearest" });
      first.focus();
    } else if (left > 0) {
      requestAnimationFrame(() => look(left - 1));
    }
  };
  requestAnimationFrame(() => look(FRAMES));
}
