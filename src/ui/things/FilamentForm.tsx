'use client';
// Everything about one filament.
import { useState } from 'react';
import type { Filament } from '@/core/bench/bench';
import { MATERIALS, type Material } from '@/core/bench/materials';
import { filamentOf } from '@/core/bench/presets';
import { ChoiceField, NumberField, TextField } from './fields';
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
        <NumberField
          label="Diameter"
          unit="mm"
          value={filament.diameter}
          onChange={(diameter) => put({ diameter })}
        />
        <NumberField
          label="Density"
          unit="g/cm³"
          value={filament.density}
          onChange={(density) => put({ density })}
        />
      </Group>
      <Group title="Temperatures">
        <NumberField
          label="Label, from"
          unit="°C"
          value={filament.nozzle.min}
          onChange={(min) => put({ nozzle: { ...filament.nozzle, min } })}
        />
        <NumberField
          label="Label, to"
          unit="°C"
          value={filament.nozzle.max}
          onChange={(max) => put({ nozzle: { ...filament.nozzle, max } })}
        />
        <NumberField label="Bed" unit="°C" value={filament.bed} onChange={(bed) => put({ bed })} />
      </Group>
      <Group title="Cooling">
        <NumberField
          label="Fan on walls"
          unit="%"
          value={Math.round(filament.fan.print * 100)}
          onChange={(percent) => put({ fan: { ...filament.fan, print: percent / 100 } })}
        />
        <NumberField
          label="Fan on bridges"
          unit="%"
          value={Math.round(filament.fan.bridge * 100)}
          onChange={(percent) => put({ fan: { ...filament.fan, bridge: percent / 100 } })}
        />
        <NumberField
          label="Shortest layer"
          unit="s"
          value={filament.shortestLayer}
          onChange={(shortestLayer) => put({ shortestLayer })}
        />
      </Group>
    </SaveForm>
  );
}
