'use client';
// What was just put away, and the way back.
import { ActButton, type Outcome } from './ActButton';

type Props = { text: string; undo: () => Promise<Outcome | void> };

export function UndoNote({ text, undo }: Props) {
  return (
    <p
      role="status"
      className="bg-accent text-accent-content mb-2 flex items-center gap-3 rounded px-3 py-1"
    >
      {text}
      <ActButton className="btn btn-ghost btn-sm" act={undo}>
        Undo
      </ActButton>
    </p>
  );
}
