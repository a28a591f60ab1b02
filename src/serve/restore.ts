/** Goes back to a copy of the data, or lists those that there are: of days, and of before an import. */

import { resolve } from 'node:path';
import { problemLine, type Problem } from '../core/result';
import { askOnce } from '../link/ask';
import { asideNames, backupDays, restore } from '../store/backups';
import { migrationsIn } from '../store/open';
import { socketFor } from './socket-path';

const say = (problems: readonly Problem[]): void => {
  for (const one of problems) process.stderr.write(`${problemLine(one)}\n`);
};

/**
 * @param folder of the database
 * @param copy its name, or undefined to list them
 * @param command that goes back to one, as people type it
 * @returns the exit code
 */
export async function restoreCopy(
  folder: string,
  copy: string | undefined,
  { migrations, command }: { migrations: string; command: string },
): Promise<number> {
  if (copy === undefined) {
    const all = [...backupDays(folder), ...asideNames(folder)];
    process.stdout.write(
      all.length === 0
        ? `There are no copies in ${folder}/backups yet.\n`
        : `${all.join('\n')}\nGo back to one with: ${command} ${all[0]}\n`,
    );
    return 0;
  }
  const socket = socketFor(resolve(folder));
  // What prints, or is hot, is of the machines that are about to be replaced.
  const aside = await askOnce<null>(socket, { act: 'stand-aside' }).catch(() => null);
  if (aside && !aside.ok) {
    say(aside.problems);
    return 1;
  }
  const restored = restore(folder, copy, migrationsIn(migrations), new Date().toISOString());
  if (restored.ok)
    process.stdout.write(
      `Everything stands as in ${copy}. What stood before is in ${restored.value}.\n`,
    );
  else say(restored.problems);
  await askOnce<null>(socket, { act: 'come-back' }).catch(() => null);
  return restored.ok ? 0 : 1;
}
