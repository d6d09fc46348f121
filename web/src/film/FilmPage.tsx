export default function FilmPage() {
  return null;
}
