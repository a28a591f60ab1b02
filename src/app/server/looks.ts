/** Straightened pictures of a ladder's prints, as they are shown beside its rungs. */

import 'server-only';
import { drawnBox } from '@/core/loupe/expected';
import type { ShownStrip } from '@/ui/common/LookStrip';
import type { PrintedCopy } from './ladder';
import { store } from './store';

/**
 * @param copies all prints of the ladder, whose order numbers them
 * @param only   this print's alone
 */
export function stripsOf(copies: readonly PrintedCopy[], only?: number): ShownStrip[] {
  const { looks, photos } = store();
  return copies.flatMap(({ print, plan }, n) => {
    if (only !== undefined && only !== print.id) return [];
    const own = photos.ofPrint(print.id);
    return looks.ofPrint(print.id).flatMap(({ id, photoId, found, takenAt }): ShownStrip[] => {
      const { flat, side } = found;
      if (!flat) return [];
      const which =
        photoId === null
          ? 'as it was simulated'
          : `picture ${own.findIndex((photo) => photo.id === photoId) + 1}`;
      const from = side === 'back' ? ', back' : '';
      return [
        {
          id,
          label: `print ${n + 1}, ${which}${from}`,
          source: `/looks/${id}?at=${encodeURIComponent(takenAt)}`,
          flat,
          drawn: photoId === null,
          frame: drawnBox(plan, side),
          mirrored: side === 'back',
        },
      ];
    });
  });
}
