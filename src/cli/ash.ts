/** The `ash` command: the same core without a browser. Standard output is data, standard error is talk. */

import { main } from './main';

// Whoever reads may have read enough: `ash kinds | head` is no error.
process.stdout.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code === 'EPIPE') process.exit(0);
  throw error;
});

process.exitCode = await main(process.argv.slice(2));
