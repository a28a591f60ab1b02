/** The `ash` command: the same core without a browser. Standard output is data, standard error is talk. */

import { Command, CommanderError } from 'commander';
import { VERSION } from '../core/version';
import { addBench, addKinds } from './bench';
import { addAudit, addTime } from './files';
import { addFind } from './find';
import { addGraft, addSections, addUngraft } from './graft';
import { addPut, addSettings } from './link';
import { addLoop } from './loop';
import { addLoupe } from './loupe';
import { addMake } from './make';
import { addSend } from './send';
import { addShake } from './shake';
import { addShakeFile } from './shake-file';
import { addPrint } from './understudy';
import { Exit, WRONG_USE } from './io';

const program = new Command('ash')
  .description('Makes, checks and reads calibration ladders')
  .version(VERSION)
  .exitOverride()
  .configureOutput({ writeErr: (text) => process.stderr.write(text) });
for (const add of [
  addKinds,
  addBench,
  addMake,
  addAudit,
  addTime,
  addFind,
  addPrint,
  addLoop,
  addSections,
  addGraft,
  addUngraft,
  addSettings,
  addPut,
  addSend,
  addShakeFile,
  addShake,
  addLoupe,
])
  add(program);

// Whoever reads may have read enough: `ash kinds | head` is no error.
process.stdout.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code === 'EPIPE') process.exit(0);
  throw error;
});

try {
  await program.parseAsync();
} catch (error) {
  if (error instanceof Exit) process.exitCode = error.code;
  else if (error instanceof CommanderError) process.exitCode = error.exitCode === 0 ? 0 : WRONG_USE;
  else throw error;
}
