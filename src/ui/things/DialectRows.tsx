'use client';
// The commands that a machine takes, need by need: one of four columns, or a template of the user's.
import {
  COLUMN_TITLES,
  DIALECTS,
  NEED_NAMES,
  NEEDS,
  type Column,
  type Dialect,
} from '@/core/dialect/dialect';
import { variablesOf } from '@/core/dialect/template';
import { ChoiceField, TextField } from './fields';

type Props = { dialect: Dialect; onChange: (dialect: Dialect) => void };
type Choice = Column | 'own';

const same = (a: Dialect, b: Dialect) => JSON.stringify(a) === JSON.stringify(b);

export function DialectRows({ dialect, onChange }: Props) {
  const columns = Object.keys(DIALECTS) as Column[];
  const column: Choice = columns.find((one) => same(DIALECTS[one], dialect)) ?? 'own';
  return (
    <fieldset>
      <legend className="mb-2 text-xl font-semibold">Commands</legend>
      <ChoiceField
        label="The set that comes closest"
        value={column}
        choices={{ ...COLUMN_TITLES, own: 'lines of my own' }}
        onChange={(choice) => choice !== 'own' && onChange(structuredClone(DIALECTS[choice]))}
      />
      <div className="mt-3 grid gap-3 sm:grid-cols-2">
        {NEED_NAMES.map((need) => (
          <div key={need}>
            <TextField
              mono
              label={`To set ${NEEDS[need].title}`}
              value={dialect[need]}
              onChange={(line) => onChange({ ...dialect, [need]: line })}
            />
            <p className="soft mt-1">
              {dialect[need] === ''
                ? 'empty: not supported by this machine'
                : `fills in ${
                    variablesOf(dialect[need])
                      .map((name) => `{${name}}`)
                      .join(', ') || 'nothing'
                  }`}
            </p>
          </div>
        ))}
        <TextField
          mono
          label="To print stored settings"
          value={dialect.report}
          onChange={(report) => onChange({ ...dialect, report })}
        />
        <TextField
          mono
          label="To keep settings"
          value={dialect.save}
          onChange={(save) => onChange({ ...dialect, save })}
        />
      </div>
    </fieldset>
  );
}
