'use client';
// Everything about one machine, the commands that it takes among it.
import { useState } from 'react';
import type { Bed, Cornering, Limits, Machine } from '@/core/bench/machine';
import { PLACEHOLDERS } from '@/core/gcode/blocks';
import { taken } from '@/core/gcode/recognise';
import { DialectRows } from './DialectRows';
import { ChoiceField, Labelled, NumberField, TextField } from './fields';
import { ReportPaste } from './ReportPaste';
import { MacroRows } from './MacroRows';
import { Group, SaveForm, type SaveAnswer } from './SaveForm';

type Props = {
  machine: Machine;
  revision: number | null;
  save: (machine: Machine, seen: number | null) => Promise<SaveAnswer<Machine>>;
};

const AXES = ['x', 'y', 'z', 'e'] as const;

export function MachineForm({ machine: first, revision, save }: Props) {
  const [machine, set] = useState(first);
  const put = (patch: Partial<Machine>) => set({ ...machine, ...patch });
  const { bed, limits, extruder, retraction, speeds } = machine;
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
        {bed.shape === 'round' ? (
          <NumberField
            label="Bed diameter"
            unit="mm"
            value={bed.diameter}
            onChange={(diameter) => put({ bed: { ...bed, diameter } })}
          />
        ) : (
          <>
            <NumberField
              label="Bed width"
              unit="mm"
              value={bed.width}
              onChange={(width) => put({ bed: { ...bed, width } })}
            />
            <NumberField
              label="Bed depth"
              unit="mm"
              value={bed.depth}
              onChange={(depth) => put({ bed: { ...bed, depth } })}
            />
          </>
        )}
        <NumberField
          label="Print height"
          unit="mm"
          value={machine.height}
          onChange={(height) => put({ height })}
        />
      </Group>
      <Group title="Extruder and heat">
        <ChoiceField
          label="Extruder"
          value={extruder.drive}
          choices={{ direct: 'direct drive', tube: 'tube-fed' }}
          onChange={(drive) => put({ extruder: { ...extruder, drive } })}
        />
        <ChoiceField
          label="Nozzles"
          value={String(extruder.tools) as '1' | '2'}
          choices={{ '1': 'one', '2': 'two' }}
          onChange={(tools) => put({ extruder: { ...extruder, tools: Number(tools) } })}
        />
        <NumberField
          label="Highest nozzle temperature"
          unit="°C"
          value={extruder.hottest}
          onChange={(hottest) => put({ extruder: { ...extruder, hottest } })}
        />
        <NumberField
          label="Highest bed temperature"
          unit="°C"
          value={machine.bedHottest}
          onChange={(bedHottest) => put({ bedHottest })}
        />
        <NumberField
          label="Retraction"
          unit="mm"
          value={retraction.distance}
          onChange={(distance) => put({ retraction: { ...retraction, distance } })}
        />
        <NumberField
          label="Retraction speed"
          unit="mm/s"
          value={retraction.speed}
          onChange={(speed) => put({ retraction: { ...retraction, speed } })}
        />
        <NumberField
          label="Lift (z-hop)"
          unit="mm"
          value={retraction.lift}
          onChange={(lift) => put({ retraction: { ...retraction, lift } })}
        />
        <NumberField
          label="Pressure advance now"
          unit="s"
          value={machine.advance ?? 0}
          onChange={(advance) => put({ advance })}
        />
      </Group>
      <Group title="Speeds">
        <NumberField
          label="Print"
          unit="mm/s"
          value={speeds.print}
          onChange={(print) => put({ speeds: { ...speeds, print } })}
        />
        <NumberField
          label="First layer"
          unit="mm/s"
          value={speeds.firstLayer}
          onChange={(firstLayer) => put({ speeds: { ...speeds, firstLayer } })}
        />
        <NumberField
          label="Travel"
          unit="mm/s"
          value={speeds.travel}
          onChange={(travel) => put({ speeds: { ...speeds, travel } })}
        />
        <NumberField
          label="Bridge"
          unit="mm/s"
          value={speeds.bridge}
          onChange={(bridge) => put({ speeds: { ...speeds, bridge } })}
        />
      </Group>
      <Group title="Limits">
        <NumberField
          label="Print acceleration"
          unit="mm/s²"
          value={limits.printAcceleration}
          onChange={(printAcceleration) => putLimits({ printAcceleration })}
        />
        <NumberField
          label="Travel acceleration"
          unit="mm/s²"
          value={limits.travelAcceleration}
          onChange={(travelAcceleration) => putLimits({ travelAcceleration })}
        />
        <ChoiceField
          label="Cornering"
          value={limits.cornering.model}
          choices={{
            jerk: 'jerk, each axis',
            'junction-deviation': 'junction deviation',
            'square-corner': 'square-corner speed',
          }}
          onChange={(model) => putLimits({ cornering: CORNERINGS[model] })}
        />
        <CorneringFields
          cornering={limits.cornering}
          onChange={(cornering) => putLimits({ cornering })}
        />
        {AXES.map((axis) => (
          <NumberField
            key={`v${axis}`}
            label={`Highest speed, ${axis}`}
            unit="mm/s"
            value={limits.speed[axis]}
            onChange={(value) => putLimits({ speed: { ...limits.speed, [axis]: value } })}
          />
        ))}
        {AXES.map((axis) => (
          <NumberField
            key={`a${axis}`}
            label={`Highest acceleration, ${axis}`}
            unit="mm/s²"
            value={limits.acceleration[axis]}
            onChange={(value) =>
              putLimits({ acceleration: { ...limits.acceleration, [axis]: value } })
            }
          />
        ))}
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

const CORNERINGS: Record<Cornering['model'], Cornering> = {
  jerk: { model: 'jerk', x: 8, y: 8, z: 0.4, e: 5 },
  'junction-deviation': { model: 'junction-deviation', deviation: 0.03 },
  'square-corner': { model: 'square-corner', speed: 5 },
};

function CorneringFields({
  cornering,
  onChange,
}: {
  cornering: Cornering;
  onChange: (cornering: Cornering) => void;
}) {
  if (cornering.model === 'jerk')
    return AXES.map((axis) => (
      <NumberField
        key={axis}
        label={`Jerk, ${axis}`}
        unit="mm/s"
        value={cornering[axis]}
        onChange={(value) => onChange({ ...cornering, [axis]: value })}
      />
    ));
  if (cornering.model === 'junction-deviation')
    return (
      <NumberField
        label="Junction deviation"
        unit="mm"
        value={cornering.deviation}
        onChange={(deviation) => onChange({ ...cornering, deviation })}
      />
    );
  return (
    <NumberField
      label="Square-corner speed"
      unit="mm/s"
      value={cornering.speed}
      onChange={(speed) => onChange({ ...cornering, speed })}
    />
  );
}

/** The same room in the other shape. */
function reshaped(bed: Bed, shape: Bed['shape']): Bed {
  if (shape === bed.shape) return bed;
  const { origin } = bed;
  return bed.shape === 'round'
    ? { shape: 'rectangle', width: bed.diameter, depth: bed.diameter, origin }
    : { shape: 'round', diameter: Math.min(bed.width, bed.depth), origin };
}
