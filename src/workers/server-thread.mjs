/** Entry of a server thread: lets it run the same sources as the command line does. */

import { register } from 'tsx/esm/api';

register();
export const {
  find,
  make,
  check,
  draw,
  isPicture,
  adopt,
  reveal,
  sliced,
  reached,
  simulate,
  stops,
  ruler,
  shakeFile,
  shaken,
  loupe,
  unpacked,
} = await import('./server.ts');
