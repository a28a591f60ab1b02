/** Where the parts of the program are, seen from the folder that holds it. */

import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

/** Numbered changes of the database. */
export const MIGRATIONS = 'src/store/migrations';

/** The folder that holds the program: bundles stand in `dist` below it. */
export const home = (): string => join(dirname(fileURLToPath(import.meta.url)), '..');

/** A bundle beside this one. */
export const bundle = (name: string): string => join(home(), 'dist', `${name}.js`);
