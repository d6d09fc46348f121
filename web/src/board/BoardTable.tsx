import type { Foresight } from "../api/types";
import { boardFields, conventionIn, reads, specOf } from "../fit/fields";
import { useFit } from "../fit/useFit";
import { withUnit } from "../ui/format";

/** Every dimension of the board as a table. */
export function BoardTable() {
  const { view, catalogue, foresight } = useFit();
  const pending = foresight.title !== "";
  return (
    // It scrolls, so it must be reachable by keyboard.
    // eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex
    <section className="board-table" aria-label="The board as a table" tabIndex={0}>
      <table>
        <thead>
          <tr>
            <th scope="col">Dimension</th>
            <th scope="col">Convention</th>
            {view.found && <th scope="col">As found</th>}
            <th scope="col">Now</th>
            {pending && <th scope="col">Foreseen</th>}
            <th scope="col">The number now is</th>
          </tr>
        </thead>
        <tbody>
          {boardFields(view.input.setup, view.walk).map((field) => {
            const spec = specOf(catalogue, field.quantity);
            const convention = conventionIn(view.now.after.conventions, field.quantity, catalogue);
            const unit = convention?.unit ?? spec?.unit ?? "mm";
            const cell = (value: number | undefined) => (value === undefined ? "?" : withUnit(value, unit));
            const unknown = view.unknown.includes(field.quantity);
            const found = view.session.setups[0]?.setup;
            return (
              <tr key={field.key}>
                <th scope="row">{field.side ? `${spec?.label ?? ""}, ${field.side}` : spec?.label}</th>
                <td style={{ textAlign: "left" }}>{convention?.words ?? spec?.how}</td>
                {view.found && found && <td>{cell(reads(field, view.found.after, found, catalogue))}</td>}
                <td>{unknown ? "?" : cell(reads(field, view.now.after, view.input.setup, catalogue))}</td>
                {pending && <td>{cell(reads(field, foresight.after, foresight.setup, catalogue))}</td>}
                <td style={{ textAlign: "left" }}>
                  {unknown ? "not taped yet" : view.origins.find((of) => of.quantity === field.quantity)?.from}
                </td>
              </tr>
            );
          })}
          {foresight.rows.map((row) => (
            <tr key={`${row.output}${row.side ?? ""}`}>
              <th scope="row">{row.label}</th>
              <td style={{ textAlign: "left" }}>{row.convention}</td>
              {view.found && (
                <td>
                  {cellOf(view.found.rows.find((r) => r.output === row.output && (r.side ?? row.side) === row.side))}
                </td>
              )}
              <td>{withUnit(row.before, row.unit)}</td>
              {pending && <td>{withUnit(row.after, row.unit)}</td>}
              <td style={{ textAlign: "left" }}>foreseen by the model</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

const cellOf = (row: Foresight["rows"][number] | undefined) => (row ? withUnit(row.after, row.unit) : "");
