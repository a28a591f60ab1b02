/** Entry of the thread that keeps: lets it run the same sources as the command line does. */

import { register } from 'tsx/esm/api';

register();
export default (await import('./keeper.ts')).default;
