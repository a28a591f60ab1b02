/** Where the server, and whatever else runs on this computer, finds the link. */

import { createHash } from 'node:crypto';
import { mkdirSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** Longest path of a socket, bytes. */
const LONGEST_SOCKET = 100;

/** Where the server finds the link: in the user's own data, or where that path is too long, in a folder of its own. */
export function socketFor(data: string): string {
  const near = join(data, 'link.sock');
  if (Buffer.byteLength(near) <= LONGEST_SOCKET) return near;
  const name = createHash('sha256').update(data).digest('hex').slice(0, 16);
  const folder = join(tmpdir(), `ash-link-${process.getuid?.() ?? 0}-${name}`);
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const { uid, mode } = statSync(folder);
  if (uid !== process.getuid?.() || (mode & 0o077) !== 0) {
    process.stderr.write(
      `${folder} belongs to somebody else or is open to others. Move it away.\n`,
    );
    process.exit(1);
  }
  return join(folder, 'link.sock');
}
