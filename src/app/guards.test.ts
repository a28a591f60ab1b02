/** What a device that was let in may ask of the program: every act and every route that takes something is named here. */

import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

/** Refused unless it was allowed, refused on every device, or open to whoever was let in. */
type Guard = 'change' | 'start' | 'computer' | 'open';

const ACTS: Record<string, Guard> = {
  'archive.ts archiveIt': 'change',
  'grafts.ts makeGraft': 'open',
  'grafts.ts nextGraft': 'open',
  'ladders.ts setUpLadder': 'open',
  'ladders.ts sameLadder': 'open',
  'ladders.ts tryOut': 'change',
  'ladders.ts makeFile': 'open',
  'ladders.ts turnWeights': 'open',
  'ladders.ts putIntoLedger': 'open',
  'ladders.ts carryIt': 'open',
  'ladders.ts takeBack': 'open',
  'ladders.ts keepRowStyle': 'open',
  'ladders.ts proveValues': 'open',
  'link.ts connectMachine': 'computer',
  'link.ts disconnectMachine': 'computer',
  // What is in force is open to everybody; reading what is stored is not.
  'link.ts readMachine': 'start',
  'link.ts applyToMachine': 'start',
  'link.ts takeOver': 'start',
  'link.ts itIsOff': 'start',
  'link.ts idleAfter': 'start',
  'link.ts tuneHeaterOf': 'start',
  'link.ts applyTuning': 'start',
  'link.ts storeInMachine': 'start',
  'link.ts takeBackPut': 'start',
  'link.ts sayToMachine': 'start',
  'link.ts heatMachine': 'start',
  'link.ts printOnMachine': 'start',
  'link.ts printKept': 'start',
  'link.ts nudgePrint': 'start',
  'link.ts keepHeight': 'start',
  'link.ts goOnPrinting': 'start',
  // Whoever sees a machine may hold it.
  'link.ts stopEverything': 'open',
  'link.ts pausePrint': 'open',
  'link.ts stopPrint': 'open',
  'loupe.ts countPicture': 'open',
  'loupe.ts findCornersIn': 'open',
  'loupe.ts measurePicture': 'open',
  'phones.ts switchPhones': 'computer',
  'phones.ts showCode': 'computer',
  'phones.ts hideCode': 'computer',
  'phones.ts putOutDevice': 'computer',
  'phones.ts allowDevice': 'computer',
  'phones.ts nameReader': 'computer',
  'reading.ts itIsPrinted': 'open',
  'reading.ts toScoreElsewhere': 'open',
  'reading.ts readAgain': 'open',
  'room.ts limitPictures': 'change',
  'room.ts forgetLong': 'change',
  'shakes.ts keepShake': 'open',
  'shakes.ts keepEchoes': 'open',
  'shakes.ts shakeUnderstudy': 'open',
  'shakes.ts shakeOnWire': 'start',
  'shakes.ts saveShaping': 'open',
  'shakes.ts proveShaping': 'open',
  'steps.ts feedFilament': 'start',
  'steps.ts readRuler': 'open',
  'steps.ts keepSteps': 'start',
  'things.ts saveMachine': 'change',
  'things.ts saveFilament': 'change',
  'things.ts makeBench': 'change',
  'understudy.ts revealTruths': 'open',
};
const ROUTES: Record<string, Guard> = {
  'adopt POST': 'change',
  'everything GET': 'change',
  'everything POST': 'change',
  'files/[id]/run POST': 'open',
  'kept POST': 'change',
  'ladders/[id]/spec POST': 'open',
  'prints/[id]/photos POST': 'open',
  'readings/[id] POST': 'open',
  'understudy POST': 'open',
};

const guardOf = (body: string): Guard =>
  /await (refusedOffComputer\(\)|atTheDoor\()|return atTheDoor\(/.test(body)
    ? 'computer'
    : /await refusedTo\('change'\)/.test(body)
      ? 'change'
      : /await refusedTo\('start'\)/.test(body)
        ? 'start'
        : 'open';

/** Exported functions of a file with their text, up to the next one. */
function exported(path: string): [name: string, body: string][] {
  const text = readFileSync(path, 'utf8');
  const starts = [...text.matchAll(/^export (?:async )?(?:function|const) (\w+)/gm)];
  return starts.map((found, i) => [found[1]!, text.slice(found.index, starts[i + 1]?.index)]);
}

test('every act of a page is guarded as it is meant to be', () => {
  const folder = 'src/app/actions';
  const found = readdirSync(folder)
    .filter((file) => readFileSync(join(folder, file), 'utf8').startsWith("'use server'"))
    .flatMap((file) =>
      exported(join(folder, file)).map(([name, body]) => [`${file} ${name}`, guardOf(body)]),
    );
  expect(Object.fromEntries(found)).toEqual(ACTS);
});

test('every route that takes something, or gives everything, is guarded as it is meant to be', () => {
  const found = readdirSync('src/app', { recursive: true, encoding: 'utf8' })
    .filter((path) => path.endsWith('route.ts'))
    .flatMap((path) =>
      exported(join('src/app', path))
        .filter(([name]) => name === 'POST' || (name === 'GET' && path.startsWith('everything')))
        .map(([name, body]) => [`${path.replace('/route.ts', '')} ${name}`, guardOf(body)]),
    );
  expect(Object.fromEntries(found)).toEqual(ROUTES);
});
