/** How long the first page has everything to itself, ms. */
const FIRST_MS = 1500;

/** Runs once when the server starts: follows the link, and wakes a thread before a page needs one. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME !== 'nodejs') return;
  const { wake } = await import('./app/server/threads');
  setTimeout(wake, FIRST_MS).unref();
  const { followLink } = await import('./app/server/link');
  followLink();
  const { keepCopies } = await import('./app/server/keeper');
  keepCopies();
}
