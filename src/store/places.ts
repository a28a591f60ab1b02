/** Where the user was: a page opened again is where it was. */

import type { Db } from './open';
import { texts } from './texts';

export const places = (db: Db) => texts<string>(db, 'place');
