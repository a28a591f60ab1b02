/** `npm run restore [day]`: goes back to the copy of a day, or lists the days of which there are copies. */

import { resolve } from 'node:path';
import { problemLine } from '../src/core/result';
import { backupDays, restore } from '../src/store/backups';
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
const [day] = process.argv.slice(2);
if (!day) {
  const days = backupDays(folder);
  process.stdout.write(
    days.length === 0
      ? `There are no copies in ${folder}/backups yet.\n`
      : `${days.join('\n')}\nGo back to one with: npm run restore -- ${days[0]}\n`,
  );
} else if (await stoodAside()) {
  const restored = restore(folder, day, migrationsIn('src/store/migrations'));
  if (restored.ok)
    process.stdout.write(
      `Everything stands as on ${day}. What stood before is in ${restored.value}.\n`,
    );
  else {
    for (const one of restored.problems) process.stderr.write(`${problemLine(one)}\n`);
    process.exitCode = 1;
  }
  await askOnce<null>(socket, { act: 'come-back' }).catch(() => null);
}
