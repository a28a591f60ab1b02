'use client';
// Everything about one filament.
import { useState } from 'react';
import type { Filament } from '@/core/bench/bench';
import { MATERIALS, type Material } from '@/core/bench/materials';
import { filamentOf } from '@/core/bench/presets';
import { ChoiceField, TextField } from './fields';
import { NumberFields, type NumberRow } from './NumberFields';
import { Group, SaveForm, type SaveAnswer } from './SaveForm';

type Props = {
  filament: Filament;
  revision: number | null;
  save: (filament: Filament, seen: number | null) => Promise<SaveAnswer<Filament>>;
};

const NAMES = Object.fromEntries(Object.keys(MATERIALS).map((name) => [name, name])) as Record<
  Material,
  string
>;

const SPOOL: NumberRow[] = [
  ['diameter', 'mm'],
  ['density', 'g/cm³'],
];
const HEAT: NumberRow[] = [
  ['nozzle.min', '°C'],
  ['nozzle.max', '°C'],
  ['bed', '°C'],
];
const COOLING: NumberRow[] = [
  ['fan.print', '%', 100],
  ['fan.bridge', '%', 100],
  ['shortestLayer', 's'],
];

export function FilamentForm({ filament: first, revision, save }: Props) {
  const [filament, set] = useState(first);
  const put = (patch: Partial<Filament>) => set({ ...filament, ...patch });
  return (
    <SaveForm
      title={first.name || 'A new filament'}
      revision={revision}
      save={(seen) => save(filament, seen)}
      take={set}
    >
      <Group title="Spool">
        <TextField label="Name" value={filament.name} onChange={(name) => put({ name })} />
        <ChoiceField
          label="Material"
          value={filament.material}
          choices={NAMES}
          onChange={(material) =>
            set({ ...filamentOf(filament.name, material), diameter: filament.diameter })
          }
        />
        <NumberFields of={filament} rows={SPOOL} onChange={set} />
      </Group>
      <Group title="Temperatures">
        <NumberFields of={filament} rows={HEAT} onChange={set} />
      </Group>
      <Group title="Cooling">
        <NumberFields of={filament} rows={COOLING} onChange={set} />
      </Group>
    </SaveForm>
  );
}
