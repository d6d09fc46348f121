import { ToPage } from "../../cards/LongPage";
import { useFit } from "../../fit/useFit";

/** What the front has done to what was set before: what is due again stands above this, at whatever station it is done. */
export function RecheckPanel() {
  const { view, go, stations } = useFit();
  const label = (of: string) => stations.find((s) => s.station === of)?.label ?? "";
  return (
    <>
      {!view.due_again && (
        <p className="settled">Nothing is due again: no kept trial has moved the front since it was checked.</p>
      )}
      <div className="buttons starts">
        {(["saddle_height", "setback", "turn"] as const).map((of) => (
          <button key={of} type="button" className="more" onClick={() => go(of)}>
            {label(of)}
          </button>
        ))}
        <ToPage words="Positions side by side" />
      </div>
    </>
  );
}
