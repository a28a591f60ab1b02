/** What the check of a kept file says. */

import 'server-only';
import type { Checked, StoredFile } from '@/store/ladders';
import { store } from './store';
import { inThread } from './threads';

/** What it said when the file was made; a file of before is checked from its own text, once. */
export async function checkedOf({ id, plan }: StoredFile): Promise<Checked> {
  const { files } = store();
  const known = files.checked(id);
  if (known) return known;
  const checked = await inThread('check', { bytes: files.bytes(id)!, plan });
  files.keepChecked(id, checked);
  return checked;
}
