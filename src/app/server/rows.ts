/** How rows of a table are written where they are pasted, as it was chosen last. */

import 'server-only';
import { RowStyle, USUAL_STYLE } from '@/core/reading/rows';
import { store } from './store';

export function rowStyle(): RowStyle {
  const kept = store().places.get('rows');
  if (kept === null) return USUAL_STYLE;
  try {
    return RowStyle.catch(USUAL_STYLE).parse(JSON.parse(kept));
  } catch {
    return USUAL_STYLE;
  }
}
