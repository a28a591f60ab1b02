// A file that is being read: how far it is, and the way to stop.
type Props = { title: string; share: number; stop: () => void };

export function ReadingProgress({ title, share, stop }: Props) {
  return (
    <div role="status" className="bg-base-200 rounded p-6">
      <p className="mb-3 text-xl font-semibold break-all">{title}</p>
      <progress
        className="progress progress-primary mb-4 w-full"
        value={share}
        max={1}
        aria-label="Reading progress"
      />
      <button type="button" className="btn-quiet" onClick={stop}>
        Stop
      </button>
    </div>
  );
}
