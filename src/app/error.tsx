'use client';
// A fault of ours, or a database that cannot be opened: said in words, with the way on.
export default function ErrorPage({
  error,
  reset,
}: {
  error: Error & { digest?: string };
  reset: () => void;
}) {
  return (
    <main className="mx-auto max-w-2xl px-4 py-14">
      <h1>Something went wrong here</h1>
      <p className="mt-4 text-lg">
        What was kept before is still there; what you did last may not be. What happened stands in
        the window in which Ash Ladder was started{error.digest ? `, under ${error.digest}` : ''}.
      </p>
      <button type="button" className="btn-main mt-6" onClick={reset}>
        Try again
      </button>
    </main>
  );
}
