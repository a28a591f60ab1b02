/** Runs once when the server starts: opens the store, follows the link, and wakes a thread before the first page needs one. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME !== 'nodejs') return;
  const { wake } = await import('./app/server/threads');
  wake();
  const { followLink } = await import('./app/server/link');
  followLink();
  const { keepCopies } = await import('./app/server/keeper');
  keepCopies();
}
