/** Says before anything is served why a database cannot be used, in words. */

import { join } from 'node:path';
import { problemLine } from '../src/core/result';
import { migrationsIn, openStore } from '../src/store/open';

const [folder] = process.argv.slice(2);
if (!folder) throw new Error('say where: check-store.ts FOLDER');
const opened = openStore(join(folder, 'ash.sqlite'), migrationsIn('src/store/migrations'), {
  says: (words) => process.stderr.write(`${words}\n`),
});
if (opened.ok) opened.value.close();
else {
  for (const one of opened.problems) process.stderr.write(`${problemLine(one)}\n`);
  process.exitCode = 1;
}
