'use client';
// Which bench: a native select, so it works with a thumb and with keys.
import { useRouter } from 'next/navigation';

type Props = { benches: { id: number; title: string }[]; chosen: number };

export function BenchPicker({ benches, chosen }: Props) {
  const router = useRouter();
  return (
    <select
      aria-label="Bench"
      className="select select-ghost h-11 max-w-full border-0 pl-0 text-base"
      value={chosen}
      onChange={({ target }) =>
        router.push(target.value === 'new' ? '/bench/new' : `/bench/${target.value}`)
      }
    >
      {benches.map(({ id, title }) => (
        <option key={id} value={id}>
          {title}
        </option>
      ))}
      <option value="new">Another bench …</option>
    </select>
  );
}
