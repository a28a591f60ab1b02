import { inOneWord, type LinkState } from './link-state';

const state = (change: Partial<LinkState>): LinkState => ({
  machine: 1,
  revision: 1,
  address: 'tcp:127.0.0.1:1',
  simulated: null,
  about: '',
  link: 'ready',
  why: null,
  heat: { nozzle: { now: 24, target: 0 }, bed: { now: NaN, target: NaN } },
  idleMin: 10,
  coolsInS: null,
  job: null,
  tuning: null,
  feeding: null,
  owed: null,
  talk: [],
  ...change,
});
const job = (change: Partial<NonNullable<LinkState['job']>>): LinkState['job'] => ({
  state: 'printing',
  line: 426,
  sure: 400,
  lines: 1000,
  why: null,
  keepsHeatS: null,
  nudged: 0,
  hot: true,
  id: 7,
  name: 'a.gcode',
  file: 3,
  startedAt: '2026-12-02',
  nudges: [],
  ...change,
});

test.each<[string, LinkState | null, string, string]>([
  ['nobody has asked yet', null, 'off', 'off'],
  ['nobody wants a link', state({ link: 'off' }), 'off', 'off'],
  ['it is gone', state({ link: 'looking' }), 'off', 'being looked for'],
  ['it is cold', state({}), 'ready', 'ready'],
  ['its bed is warm', state({ heat: { bed: { now: 61.6, target: 0 } } }), 'hot', 'hot, 62 °C'],
  [
    'a second nozzle is',
    state({ heat: { others: [{ now: 180, target: 0 }] } }),
    'hot',
    'hot, 180 °C',
  ],
  ['it prints', state({ job: job({}), link: 'busy' }), 'busy', 'printing 42 %'],
  ['it stands', state({ job: job({ state: 'paused' }) }), 'busy', 'paused at 42 %'],
  [
    'it is lost in the middle',
    state({ job: job({ state: 'lost' }), link: 'looking' }),
    'busy',
    'not reached, at 42 %',
  ],
  ['its print is over', state({ job: job({ state: 'finished' }) }), 'ready', 'ready'],
  ['nothing is known of its file', state({ job: job({ lines: 0 }) }), 'busy', 'printing 0 %'],
  ['it does something of its own', state({ link: 'busy' }), 'busy', 'busy'],
  [
    'it feeds',
    state({ feeding: { mm: 100, state: 'running', n: 1, why: null } }),
    'hot',
    'feeding',
  ],
])('in a word: %s', (_, now, mark, says) => {
  expect(inOneWord(now)).toEqual({ mark, says });
});
