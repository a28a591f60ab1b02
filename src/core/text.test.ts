import fc from 'fast-check';
import { plainName, plainLine, slug } from './text';

test('any text becomes one printable line without marks that a machine would act on', () => {
  fc.assert(
    fc.property(fc.string({ unit: 'binary', maxLength: 200 }), (text) => {
      expect(plainLine(text)).toMatch(/^[A-Za-z0-9 .,+\-_/#%=:]{0,60}$/);
    }),
    { seed: 14 },
  );
});

test.each([
  ['x\nM104 S300', 'x_M104 S300'],
  ['Mösli\u2028M109', 'Mosli_M109'],
  ['a;b*c{d}', 'a_b_c_d_'],
  ['Heron · 0.4', 'Heron - 0.4'],
])('%j is written as %j', (text, wanted) => {
  expect(plainLine(text)).toBe(wanted);
});

test('a slug is fit for a file name', () => {
  expect(slug(' Moss matte PLA ')).toBe('moss-matte-pla');
  expect(slug('../../etc')).toBe('etc');
});

test('a name loses the signs that would turn what follows it, and nothing that is seen', () => {
  expect(plainName('Her\u202eon')).toBe('Heron');
  expect(plainName(' Ünsichtbar\u200b 42 \u2066')).toBe('Ünsichtbar 42');
});
