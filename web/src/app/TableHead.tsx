/** The head of a table of figures: the first column names what each row is about, the others hold numbers. */
export function TableHead({ columns }: { columns: readonly string[] }) {
  return (
    <thead className="bg-band">
      <tr className="text-right">
        {columns.map((name, i) => (
          <th key={name} scope="col" className={`px-3 py-2 ${i === 0 ? "text-left" : ""}`}>
            {name}
          </th>
        ))}
      </tr>
    </thead>
  );
}
