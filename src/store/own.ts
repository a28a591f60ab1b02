/** What belongs to this computer alone, such as whether phones are let in: it stays when other data is taken in. */

import type { Db } from './open';
import { texts } from './texts';

export const own = (db: Db) => texts<'lan' | 'reader' | 'store' | 'pictures'>(db, 'own');
