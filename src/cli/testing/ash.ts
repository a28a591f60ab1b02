/** The command as the shell runs it, from its bundle. */

import { spawnSync } from 'node:child_process';
import { resolve } from 'node:path';

export const ASH = resolve('dist/ash.js');

/** @returns runs `ash` where a folder is */
export const ashIn =
  (folder: string) =>
  (...args: string[]) => {
    const { status, stdout, stderr } = spawnSync(process.execPath, [ASH, ...args], {
      cwd: folder,
      encoding: 'utf8',
    });
    return { status, stdout, stderr };
  };
