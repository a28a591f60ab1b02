import { owedSaid, whenSaid } from './owed';

const heron = {
  machine: 1,
  name: 'Heron',
  address: 'tcp:127.0.0.1:4000',
  why: 'the link was lost',
  since: '2026-11-29T14:02:00',
};

test('a machine that may be hot is spoken of in plain words', () => {
  const at = whenSaid(heron.since, Date.parse('2026-11-29T15:00:00'));
  expect(owedSaid({ ...heron, state: 'unheard' }, at)).toBe(
    'Heron may still be hot: the link was lost at 14:02. It is cooled when it answers. Switch it off by hand if nobody is there.',
  );
  expect(owedSaid({ ...heron, state: 'stuck' }, at)).toContain('temperatures do not fall');
});

test('the day is said where it was another', () => {
  expect(whenSaid(heron.since, Date.parse('2026-11-30T09:00:00'))).toBe('on 29 November at 14:02');
});
