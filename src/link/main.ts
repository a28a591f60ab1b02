/** The link's own process: `main.ts DATABASE SOCKET`. It owns every wire, so that no computation can starve one. */

import { records } from './records';
import { Acts, type StandIn } from './serve-acts';

const [database, socket] = process.argv.slice(2);
if (!database || !socket) throw new Error('say where: main.ts DATABASE SOCKET');

/** How often a link that is there already is looked for, ms: when it has ended, this one takes its place. */
const WAIT_MS = 1000;

const kept = records(database);
const acts = new Acts(kept);
while (!(await acts.listen(socket))) await new Promise((resolve) => setTimeout(resolve, WAIT_MS));
acts.begin(new Date().toISOString(), JSON.parse(process.env.ASH_UNDERSTUDIES ?? '[]') as StandIn[]);
process.stdout.write('ready\n');

let ending = false;
// What is said to a terminal that has been shut is lost, and nothing else is.
process.stderr.on('error', () => undefined);
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const)
  process.on(signal, () => {
    if (ending) return;
    ending = true;
    void acts.close().then(() => {
      kept.close();
      process.exit(0);
    });
  });
