/** The names of a table's columns; an empty one has none. */
export function HeadRow({ columns }: { columns: string[] }) {
  return (
    <thead>
      <tr>
        {columns.map((name, at) =>
          name === "" ? (
            <td key={at} />
          ) : (
            <th key={at} scope="col">
              {name}
            </th>
          ),
        )}
      </tr>
    </thead>
  );
}
