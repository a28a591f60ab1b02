/** Where a file that comes in lies, and the database that is made of it, in the data folder. */

export const INCOMING = 'incoming.ash';
export const SCRATCH = 'incoming.sqlite';
