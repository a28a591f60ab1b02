import fc from 'fast-check';
import { differences } from './differences';
import type { Score, Scores } from './types';

const ines = { reader: 'Ines', scores: { stringing: [1, 2, null], gloss: [3, 3, 3] } as Scores };
const mara = { reader: 'Mara', scores: { stringing: [4, 3, 0], gloss: [1, 3, 3] } as Scores };

test('what is two or more apart is told, the furthest first', () => {
  expect(differences([ines, mara])).toEqual([
    {
      rung: 0,
      criterion: 'stringing',
      said: [
        { reader: 'Ines', score: 1 },
        { reader: 'Mara', score: 4 },
      ],
    },
    {
      rung: 0,
      criterion: 'gloss',
      said: [
        { reader: 'Ines', score: 3 },
        { reader: 'Mara', score: 1 },
      ],
    },
  ]);
});

test('one reader, neighbouring scores, and what nobody could tell are no disagreement', () => {
  expect(differences([ines])).toEqual([]);
  expect(differences([])).toEqual([]);
  const near = { reader: 'Mara', scores: { stringing: [2, 1, 4] } as Scores };
  expect(differences([ines, near])).toEqual([]);
});

test('the order of readers changes nothing but the order in which they are named', () => {
  const column = fc.array(
    fc.option(fc.integer({ min: 0, max: 4 }).map((score) => score as Score)),
    { minLength: 4, maxLength: 4 },
  );
  fc.assert(
    fc.property(column, column, (a, b) => {
      const [one, two] = [a, b].map((stringing, i) => ({ reader: `${i}`, scores: { stringing } }));
      const cells = (list: ReturnType<typeof differences>) =>
        list.map(({ rung, said }) => [rung, said.map(({ score }) => score).sort()]);
      expect(cells(differences([one!, two!]))).toEqual(cells(differences([two!, one!])));
    }),
    { seed: 12 },
  );
});
