interface TickProps {
  label: string;
  on: boolean;
  readOnly: boolean;
  onTick: (on: boolean) => void;
}

/** A box to tick. */
export function Tick({ label, on, readOnly, onTick }: TickProps) {
  return (
    <label className="tick">
      <input type="checkbox" checked={on} disabled={readOnly} onChange={(event) => onTick(event.target.checked)} />
      {label}
    </label>
  );
}
