// Said wherever something comes from a simulated machine.
import { FlaskConical } from 'lucide-react';

export function SimulatedNote({ name, seed }: { name: string; seed: number }) {
  return (
    <p className="simulated-note bg-accent text-accent-content mx-4 mt-2 flex items-center gap-2 rounded px-3 py-1 lg:mx-7">
      <FlaskConical size={18} aria-hidden className="shrink-0" />
      <span>
        <b>Simulated</b> on “{name}”, seed {seed}: no real machine printed this.
      </span>
    </p>
  );
}
