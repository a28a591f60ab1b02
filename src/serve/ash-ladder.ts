/** The `ash-ladder` command: serves the app, from its sources or as it was installed. */

import { Command, CommanderError, InvalidArgumentError, Option } from 'commander';
import envPaths from 'env-paths';
import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { isIP } from 'node:net';
import { join, resolve } from 'node:path';
import { VERSION } from '../core/version';
import { bundle, home, MIGRATIONS } from './home';
import { say, serve } from './serve';

const DEFAULT_PORT = 4710;
const LARGEST_PORT = 65_535;
const WRONG_USE = 2;

type Options = {
  demo: boolean;
  lan: string | boolean;
  port: number;
  data?: string;
  open: boolean;
  dev: boolean;
};

/** How the command is called, as people type it. */
const called = process.env.ASH_CALLED ?? 'ash-ladder';

const port = (text: string): number => {
  const number = Number(text);
  if (Number.isInteger(number) && number > 0 && number <= LARGEST_PORT) return number;
  throw new InvalidArgumentError(`Give a whole number from 1 to ${LARGEST_PORT}.`);
};

/**
 * What is said about phones: whether their door is open from the start (`--lan`), and the one address it listens on
 * (`--lan ADDRESS`, or `ASH_LAN`, which opens nothing by itself); none for every one that a phone could use. Null for
 * what is no address, with that said.
 */
function phonesFrom(lan: string | boolean): { open: boolean; address: string } | null {
  const told = typeof lan === 'string' ? lan : '';
  const address = told || (process.env.ASH_LAN ?? '');
  if (address === '' || (isIP(address) > 0 && !/^(0\.0\.0\.0|::)$/.test(address)))
    return { open: lan !== false, address };
  say(
    `${told ? '--lan' : 'ASH_LAN'}: “${address}” is no address of one connection. Give one of this computer, such as --lan 192.168.1.5, or none to listen on every one that a phone could use.`,
  );
  return null;
}

/** Where the data is kept: as told, or where this system keeps what programs keep for their user. */
const folderFor = ({ demo, data }: Pick<Options, 'demo' | 'data'>): string =>
  resolve(
    data ??
      process.env.ASH_DATA ??
      envPaths(demo ? 'ash-ladder-demo' : 'ash-ladder', { suffix: '' }).data,
  );

async function run(options: Options): Promise<number | null> {
  const data = folderFor(options);
  const phones = phonesFrom(options.lan);
  if (phones === null) return WRONG_USE;
  if (options.demo && !existsSync(join(data, 'ash.sqlite'))) {
    say(`Filling ${data} with the demo …`);
    const { status } = spawnSync(process.execPath, [bundle('fill-demo'), data], {
      cwd: home(),
      stdio: ['ignore', 2, 2],
    });
    if (status !== 0) return status ?? 1;
  }
  const { open, dev } = options;
  // For trying things out: simulated machines stand ready on the wire.
  const understudies = options.demo || process.env.ASH_UNDERSTUDY_SPEED !== undefined;
  return serve({ data, port: options.port, phones, understudies, open, dev });
}

let code: number | null = 0;
const program = new Command('ash-ladder')
  .description('Serves Ash Ladder to the browser of this computer')
  .version(VERSION)
  .exitOverride()
  .option('--demo', 'with a workshop to look around in, and simulated machines', false)
  .option(
    '--lan [address]',
    'let phones on the local network in; on one address, where given',
    false,
  )
  .addOption(
    new Option('--port <number>', 'the port it is served on, or the next free one')
      .env('PORT')
      .default(DEFAULT_PORT)
      .argParser(port),
  )
  .option('--data <folder>', 'where everything is kept (else ASH_DATA, else your data folder)')
  .option('--open', 'open it in the browser', false)
  .addOption(new Option('--dev').default(false).hideHelp())
  .action(async (options: Options) => {
    code = await run(options);
  });
program
  .command('restore')
  .description('go back to a copy of the data, or list those that there are')
  .argument('[copy]', 'the name of one, as listed')
  .action(async (copy: string | undefined) => {
    // Read when it is asked for: what serves for months holds nothing that it does not need.
    const { restoreCopy } = await import('./restore');
    code = await restoreCopy(folderFor(program.opts<Options>()), copy, {
      migrations: join(home(), MIGRATIONS),
      command: `${called} restore`,
    });
  });

try {
  await program.parseAsync();
} catch (error) {
  if (!(error instanceof CommanderError)) throw error;
  code = error.exitCode === 0 ? 0 : WRONG_USE;
}
// While it serves, its processes keep it alive.
if (code !== null) process.exit(code);
