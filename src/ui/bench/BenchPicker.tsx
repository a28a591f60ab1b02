'use client';
// Which bench: a native select, so it works with a thumb and with keys.
import { useRouter } from 'next/navigation';

type Props = {
  benches: { id: number; title: string }[];
  chosen: number;
  title: string;
  /** Whether there are more than are listed. */
  more: boolean;
};

export function BenchPicker({ benches, chosen, title, more }: Props) {
  const router = useRouter();
  const listed = benches.some(({ id }) => id === chosen)
    ? benches
    : [{ id: chosen, title }, ...benches];
  return (
    <select
      aria-label="Bench"
      className="select select-ghost h-11 w-auto max-w-full min-w-0 border-0 pl-0 text-base"
      value={chosen}
      onChange={({ target: { value } }) =>
        router.push(
          value === 'new' ? '/bench/new' : value === 'all' ? '/things' : `/bench/${value}`,
        )
      }
    >
      {listed.map((one) => (
        <option key={one.id} value={one.id}>
          {one.title}
        </option>
      ))}
      {more && <option value="all">All benches …</option>}
      <option value="new">Another bench …</option>
    </select>
  );
}
