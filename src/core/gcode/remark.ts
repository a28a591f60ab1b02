/** What an audit remarks on. */

import { z } from 'zod';

export const Remark = z.object({
  /** `stop`: do not send. `warning`: look before you send. `note`: worth knowing. */
  grade: z.enum(['stop', 'warning', 'note']),
  code: z.string(),
  /** Line of the file where it is seen first; null when it speaks of the whole. */
  line: z.number().nullable(),
  /** How often. */
  count: z.number(),
  what: z.string(),
  mend: z.string(),
});
export type Remark = z.infer<typeof Remark>;
