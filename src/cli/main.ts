/** What the `ash` command does with what follows its name. */

import { Command, CommanderError } from 'commander';
import { VERSION } from '../core/version';
import { Exit, WRONG_USE } from './io';

type Add = (program: Command) => void;

/** Each command is read when it is asked for: a short answer waits for nothing that it does not need. */
const COMMANDS: Record<string, () => Promise<Add>> = {
  kinds: async () => (await import('./bench')).addKinds,
  bench: async () => (await import('./bench')).addBench,
  make: async () => (await import('./make')).addMake,
  audit: async () => (await import('./files')).addAudit,
  time: async () => (await import('./files')).addTime,
  find: async () => (await import('./find')).addFind,
  print: async () => (await import('./understudy')).addPrint,
  loop: async () => (await import('./loop')).addLoop,
  sections: async () => (await import('./graft')).addSections,
  graft: async () => (await import('./graft')).addGraft,
  ungraft: async () => (await import('./graft')).addUngraft,
  settings: async () => (await import('./link')).addSettings,
  put: async () => (await import('./link')).addPut,
  send: async () => (await import('./send')).addSend,
  'shake-file': async () => (await import('./shake-file')).addShakeFile,
  shake: async () => (await import('./shake')).addShake,
  loupe: async () => (await import('./loupe')).addLoupe,
};

/**
 * Runs one command.
 *
 * @param args what follows `ash`
 * @returns its exit code
 */
export async function main(args: readonly string[]): Promise<number> {
  const program = new Command('ash')
    .description('Makes, checks and reads calibration ladders')
    .version(VERSION)
    .exitOverride()
    .configureOutput({
      writeOut: (text) => process.stdout.write(text),
      writeErr: (text) => process.stderr.write(text),
    });
  const asked = Object.entries(COMMANDS).filter(([name]) => name === args[0]);
  for (const [, add] of asked.length > 0 ? asked : Object.entries(COMMANDS)) (await add())(program);
  try {
    await program.parseAsync(args, { from: 'user' });
  } catch (error) {
    if (error instanceof Exit) return error.code;
    if (error instanceof CommanderError) return error.exitCode === 0 ? 0 : WRONG_USE;
    throw error;
  }
  return Number(process.exitCode ?? 0);
}
