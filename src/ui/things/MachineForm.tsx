'use client';
// Everything about one machine, the commands that it takes among it.
import { useState } from 'react';
import type { Bed, Cornering, Limits, Machine } from '@/core/bench/machine';
import { PLACEHOLDERS } from '@/core/gcode/blocks';
import { taken } from '@/core/gcode/recognise';
import { DialectRows } from './DialectRows';
import { ChoiceField, Labelled, TextField } from './fields';
import { NumberFields, type NumberRow } from './NumberFields';
import { ReportPaste } from './ReportPaste';
import { MacroRows } from './MacroRows';
import { Group, SaveForm, type SaveAnswer } from './SaveForm';

type Props = {
  machine: Machine;
  revision: number | null;
  save: (machine: Machine, seen: number | null) => Promise<SaveAnswer<Machine>>;
};

export function MachineForm({ machine: first, revision, save }: Props) {
  const [machine, set] = useState(first);
  const put = (patch: Partial<Machine>) => set({ ...machine, ...patch });
  const { bed, limits, extruder } = machine;
  const putLimits = (patch: Partial<Limits>) => put({ limits: { ...limits, ...patch } });
  return (
    <SaveForm
      title={first.name || 'A new machine'}
      revision={revision}
      save={(seen) => save(machine, seen)}
      take={set}
    >
      <ReportPaste
        onTake={({ change }) => change.machine && set((now) => taken(now, change.machine!))}
      />
      <Group title="Machine">
        <TextField label="Name" value={machine.name} onChange={(name) => put({ name })} />
        <ChoiceField
          label="Bed shape"
          value={bed.shape}
          choices={{ rectangle: 'rectangle', round: 'round' }}
          onChange={(shape) => put({ bed: reshaped(bed, shape) })}
        />
        <ChoiceField
          label="Origin of x and y"
          value={bed.origin}
          choices={{ corner: 'front left corner', centre: 'centre of the bed' }}
          onChange={(origin) => put({ bed: { ...bed, origin } })}
        />
        <NumberFields of={machine} rows={BED[bed.shape]} onChange={set} />
        <NumberFields of={machine} rows={[['height', 'mm']]} onChange={set} />
      </Group>
      <Group title="Extruder and heat">
        <ChoiceField
          label="Extruder"
          value={extruder.drive}
          choices={{
            direct: 'on the head (direct drive)',
            tube: 'on the frame, fed through a tube',
          }}
          onChange={(drive) => put({ extruder: { ...extruder, drive } })}
        />
        <ChoiceField
          label="Nozzles"
          value={String(extruder.tools) as '1' | '2'}
          choices={{ '1': 'one', '2': 'two' }}
          onChange={(tools) => put({ extruder: { ...extruder, tools: Number(tools) } })}
        />
        <NumberFields of={machine} rows={EXTRUDER} onChange={set} />
      </Group>
      <Group title="Speeds">
        <NumberFields of={machine} rows={SPEEDS} onChange={set} />
      </Group>
      <Group title="Limits">
        <NumberFields of={machine} rows={ACCELERATIONS} onChange={set} />
        <ChoiceField
          label="Cornering"
          value={limits.cornering.model}
          choices={{
            jerk: 'by the jump in speed of each axis (jerk)',
            'junction-deviation': 'by how far a corner may be cut (junction deviation)',
            'square-corner': 'by the speed in a right angle (square corner)',
          }}
          onChange={(model) => putLimits({ cornering: CORNERINGS[model] })}
        />
        <NumberFields
          of={machine}
          rows={[...CORNERING_ROWS[limits.cornering.model], ...AXIS_LIMITS]}
          onChange={set}
        />
      </Group>
      <MacroRows macros={machine.macros ?? []} onChange={(macros) => put({ macros })} />
      <DialectRows dialect={machine.dialect} onChange={(dialect) => put({ dialect })} />
      <fieldset>
        <legend className="mb-2 text-xl font-semibold">Start and end</legend>
        <p className="soft mb-2">
          Your own lines, around every file. Filled in for you:{' '}
          {Object.entries(PLACEHOLDERS)
            .map(([name, what]) => `{${name}} ${what}`)
            .join('; ')}
          .
        </p>
        <div className="grid gap-4 sm:grid-cols-2">
          {(['startBlock', 'endBlock'] as const).map((block) => (
            <Labelled key={block} label={block === 'startBlock' ? 'Start block' : 'End block'}>
              <textarea
                className="textarea h-64 w-full font-mono text-sm"
                spellCheck={false}
                value={machine[block]}
                onChange={({ target }) => put({ [block]: target.value })}
              />
            </Labelled>
          ))}
        </div>
      </fieldset>
    </SaveForm>
  );
}

const BED: Record<Bed['shape'], NumberRow[]> = {
  round: [['bed.diameter', 'mm']],
  rectangle: [
    ['bed.width', 'mm'],
    ['bed.depth', 'mm'],
  ],
};
const EXTRUDER: NumberRow[] = [
  ['extruder.hottest', '°C'],
  ['bedHottest', '°C'],
  ['retraction.distance', 'mm'],
  ['retraction.speed', 'mm/s'],
  ['retraction.lift', 'mm'],
  ['advance', 's'],
];
const SPEEDS: NumberRow[] = ['print', 'firstLayer', 'travel', 'bridge'].map((name) => [
  `speeds.${name}`,
  'mm/s',
]);
const ACCELERATIONS: NumberRow[] = [
  ['limits.printAcceleration', 'mm/s²'],
  ['limits.travelAcceleration', 'mm/s²'],
];
const AXES = ['x', 'y', 'z', 'e'];
const AXIS_LIMITS: NumberRow[] = [
  ...AXES.map((axis): NumberRow => [`limits.speed.${axis}`, 'mm/s']),
  ...AXES.map((axis): NumberRow => [`limits.acceleration.${axis}`, 'mm/s²']),
];
const CORNERING_ROWS: Record<Cornering['model'], NumberRow[]> = {
  jerk: AXES.map((axis) => [`limits.cornering.${axis}`, 'mm/s']),
  'junction-deviation': [['limits.cornering.deviation', 'mm']],
  'square-corner': [['limits.cornering.speed', 'mm/s']],
};

const CORNERINGS: Record<Cornering['model'], Cornering> = {
  jerk: { model: 'jerk', x: 8, y: 8, z: 0.4, e: 5 },
  'junction-deviation': { model: 'junction-deviation', deviation: 0.03 },
  'square-corner': { model: 'square-corner', speed: 5 },
};

/** The same room in the other shape. */
function reshaped(bed: Bed, shape: Bed['shape']): Bed {
  if (shape === bed.shape) return bed;
  const { origin } = bed;
  return bed.shape === 'round'
    ? { shape: 'rectangle', width: bed.diameter, depth: bed.diameter, origin }
    : { shape: 'round', diameter: Math.min(bed.width, bed.depth), origin };
}
