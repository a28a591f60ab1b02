/** What the server is made of, for scripts/server.mjs: loaded once, with everything that these share. */

export { Desk } from './desk';
export { Key, keyIn } from './key';
export { Lan } from './lan';
export { Queue } from './queue';
