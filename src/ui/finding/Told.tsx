// What a value means for prints, as a table to look up.
import type { Told as Table } from '@/core/ladders/types';

export function Told({ title, heads, rows }: Table) {
  const [first, ...others] = heads;
  return (
    <section className="rule-above overflow-x-auto" tabIndex={0} aria-label={title}>
      <table className="table-sm table w-auto">
        <caption className="soft pb-1 text-left">{title}</caption>
        <thead>
          <tr>
            <th scope="col">{first}</th>
            {others.map((head) => (
              <th key={head} scope="col" className="text-right">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map(([name, ...cells]) => (
            <tr key={name}>
              <th scope="row">{name}</th>
              {cells.map((cell, i) => (
                <td key={i} className="text-right font-semibold">
                  {cell}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
