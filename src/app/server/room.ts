/** How much room pictures may take, as a person has said, and whether there is any left. */

import 'server-only';
import { problem, type Problem } from '@/core/result';
import { picturesTake } from '@/store/room';
import { store } from './store';

/** Bytes; null for all that there is. */
export function pictureLimit(): number | null {
  const said = Number(store().own.get('pictures') ?? '');
  return said > 0 ? said : null;
}

/** Why no picture of this size is kept; null where it is. */
export function noRoomFor(bytes: number): Problem | null {
  const limit = pictureLimit();
  if (limit === null) return null;
  const taken = picturesTake(store().db)();
  return taken + bytes <= limit
    ? null
    : problem(
        'picture',
        `Pictures may take ${(limit / 1e9).toFixed(2)} GB here, and take ${(taken / 1e9).toFixed(2)} GB.`,
        'Make room under Spools and machines, Room; then send it again.',
      );
}
