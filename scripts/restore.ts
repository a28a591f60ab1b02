/** `npm run restore [copy]`: goes back to a copy, or lists those that there are: of days, and of before an import. */

import { resolve } from 'node:path';
import { problemLine } from '../src/core/result';
import { asideNames, backupDays, restore } from '../src/store/backups';
import { askOnce } from '../src/link/ask';
import { migrationsIn } from '../src/store/open';
import { socketFor } from './socket-path.mjs';

const socket = socketFor(resolve(process.env.ASH_DATA ?? './data'));
/** What prints, or is hot, is of the machines that are about to be replaced. @returns whether it may be done */
async function stoodAside(): Promise<boolean> {
  const aside = await askOnce<null>(socket, { act: 'stand-aside' }).catch(() => null);
  if (!aside || aside.ok) return true;
  for (const one of aside.problems) process.stderr.write(`${problemLine(one)}\n`);
  process.exitCode = 1;
  return false;
}

const folder = process.env.ASH_DATA ?? './data';
const [copy] = process.argv.slice(2);
if (!copy) {
  const all = [...backupDays(folder), ...asideNames(folder)];
  process.stdout.write(
    all.length === 0
      ? `There are no copies in ${folder}/backups yet.\n`
      : `${all.join('\n')}\nGo back to one with: npm run restore -- ${all[0]}\n`,
  );
} else if (await stoodAside()) {
  const at = new Date().toISOString();
  const restored = restore(folder, copy, migrationsIn('src/store/migrations'), at);
  if (restored.ok)
    process.stdout.write(
      `Everything stands as in ${copy}. What stood before is in ${restored.value}.\n`,
    );
  else {
    for (const one of restored.problems) process.stderr.write(`${problemLine(one)}\n`);
    process.exitCode = 1;
  }
  await askOnce<null>(socket, { act: 'come-back' }).catch(() => null);
}
