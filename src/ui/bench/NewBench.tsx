'use client';
// A bench in under a minute: a starting point each for machine and filament, and three fields to change.
import { useRouter } from 'next/navigation';
import { useRef, useState } from 'react';
import { attempt } from '../common/attempt';
import { wrongProblem } from '../common/NumberBox';
import { filamentOf, MACHINE_KINDS, MACHINES, type MachinePreset } from '@/core/bench/presets';
import { MATERIALS, type Material } from '@/core/bench/materials';
import type { Machine } from '@/core/bench/machine';
import type { Filament } from '@/core/bench/bench';
import type { Answer, Problem } from '@/core/result';
import { Problems } from '../common/Problems';
import { SubmitButton } from '../common/SubmitButton';
import { Labelled, NumberField } from '../things/fields';
import { MachineSketch } from './MachineSketch';
import { ReportPaste } from '../things/ReportPaste';
import { ToldList } from '../things/ToldList';
import { taken, type Told } from '@/core/gcode/recognise';

type Named = { id: number; name: string };
type Props = {
  machines: Named[];
  filaments: Named[];
  make: (bench: unknown) => Promise<Answer<number>>;
  /** What an open file tells; without one a report can be pasted. */
  told?: readonly Told[];
  onLine?: (line: number) => void;
};

const BORES = [0.2, 0.25, 0.3, 0.4, 0.5, 0.6, 0.8, 1];
const fresh = (preset: MachinePreset): Machine => ({
  ...structuredClone(MACHINES[preset]),
  name: '',
});

export function NewBench({ machines, filaments, make, told, onLine }: Props) {
  const router = useRouter();
  const [machineId, setMachineId] = useState<number | null>(machines[0]?.id ?? null);
  const [filamentId, setFilamentId] = useState<number | null>(filaments[0]?.id ?? null);
  const [preset, setPreset] = useState<MachinePreset>('heron');
  const [machine, setMachine] = useState<Machine>(fresh('heron'));
  const [filament, setFilament] = useState<Filament>(filamentOf('', 'PLA'));
  const [bore, setBore] = useState(0.4);
  const [problems, setProblems] = useState<Problem[]>([]);
  const [busy, setBusy] = useState(false);
  const form = useRef<HTMLFormElement>(null);

  const submit = async () => {
    const wrong = form.current && wrongProblem(form.current);
    if (wrong) return setProblems([wrong]);
    setBusy(true);
    const answer = await attempt(() =>
      make({ machine: machineId ?? machine, filament: filamentId ?? filament, bore }),
    ).finally(() => setBusy(false));
    if (answer.ok) router.push(`/bench/${answer.value}`);
    else setProblems(answer.problems);
  };

  /** What is taken over changes a new machine and a new filament, never those that other benches stand on. */
  const take = ({ change }: Told) => {
    if (change.machine) {
      setMachineId(null);
      setMachine((now) => taken(now, change.machine!));
    }
    if (change.filament) {
      setFilamentId(null);
      setFilament((now) =>
        taken(
          change.filament?.material ? filamentOf(now.name, change.filament.material) : now,
          change.filament!,
        ),
      );
    }
    if (change.bore) setBore(change.bore);
  };

  const { bed } = machine;
  return (
    <section className="mx-auto max-w-6xl px-4 py-8">
      <h1>A bench: machine, nozzle, filament</h1>
      <p className="mt-2">
        {told
          ? 'Use what is right for your machine, choose the rest. Nothing is used until you say so.'
          : 'Choose what comes closest, then change what differs. You can refine the rest later.'}
      </p>
      {told && (
        <div className="mt-6">
          <ToldList told={told} onTake={take} onLine={onLine} />
        </div>
      )}
      <form
        ref={form}
        className="mt-6 grid grid-cols-[minmax(0,1fr)] gap-x-12 gap-y-8 lg:grid-cols-2"
        onChange={() => problems.length > 0 && setProblems([])}
        onSubmit={(event) => {
          event.preventDefault();
          void submit();
        }}
      >
        <fieldset className="lg:row-span-2">
          <legend className="mb-2 text-xl font-semibold">Machine</legend>
          {machines.length > 0 && (
            <Choice
              label="Machine"
              value={machineId}
              things={machines}
              other="A new machine"
              onChoose={setMachineId}
            />
          )}
          {machineId === null && (
            <div className="space-y-3">
              <div
                className="grid gap-2 sm:grid-cols-2"
                role="radiogroup"
                aria-label="Which is most like yours?"
              >
                {(Object.entries(MACHINE_KINDS) as [MachinePreset, string][]).map(
                  ([key, title]) => (
                    <label
                      key={key}
                      className="border-base-300 has-checked:border-primary has-checked:bg-accent has-focus-visible:outline-primary flex cursor-pointer items-center gap-3 rounded border-2 p-2 leading-tight has-checked:font-semibold has-focus-visible:outline-3"
                    >
                      <input
                        type="radio"
                        name="like"
                        className="sr-only"
                        checked={preset === key}
                        onChange={() => {
                          setPreset(key);
                          setMachine({ ...fresh(key), name: machine.name });
                        }}
                      />
                      <MachineSketch preset={key} />
                      {title}
                    </label>
                  ),
                )}
              </div>
              <Labelled label="Machine’s name">
                <input
                  className="input w-full"
                  name="machine-name"
                  required
                  maxLength={80}
                  value={machine.name}
                  onChange={({ target }) => setMachine({ ...machine, name: target.value })}
                />
              </Labelled>
              <div className="grid gap-3 sm:grid-cols-3">
                {bed.shape === 'rectangle' ? (
                  <>
                    <NumberField
                      label="Bed width"
                      unit="mm"
                      value={bed.width}
                      onChange={(width) => setMachine({ ...machine, bed: { ...bed, width } })}
                    />
                    <NumberField
                      label="Bed depth"
                      unit="mm"
                      value={bed.depth}
                      onChange={(depth) => setMachine({ ...machine, bed: { ...bed, depth } })}
                    />
                  </>
                ) : (
                  <NumberField
                    label="Bed diameter"
                    unit="mm"
                    value={bed.diameter}
                    onChange={(diameter) => setMachine({ ...machine, bed: { ...bed, diameter } })}
                  />
                )}
                <NumberField
                  label="Print height"
                  unit="mm"
                  value={machine.height}
                  onChange={(height) => setMachine({ ...machine, height })}
                />
              </div>
            </div>
          )}
        </fieldset>
        <fieldset>
          <legend className="mb-2 text-xl font-semibold">Nozzle</legend>
          <div className="flex flex-wrap gap-2" role="radiogroup" aria-label="Nozzle diameter">
            {BORES.map((one) => (
              <button
                key={one}
                type="button"
                role="radio"
                aria-checked={bore === one}
                className={`btn font-normal ${bore === one ? 'btn-chosen' : 'btn-quiet'}`}
                onClick={() => setBore(one)}
              >
                {one} mm
              </button>
            ))}
          </div>
        </fieldset>
        <fieldset>
          <legend className="mb-2 text-xl font-semibold">Filament</legend>
          {filaments.length > 0 && (
            <Choice
              label="Filament"
              value={filamentId}
              things={filaments}
              other="A new filament"
              onChoose={setFilamentId}
            />
          )}
          {filamentId === null && (
            <div className="space-y-3">
              <div className="grid gap-3 sm:grid-cols-[8rem_1fr]">
                <Labelled label="Material">
                  <select
                    className="select w-full"
                    value={filament.material}
                    onChange={({ target }) =>
                      setFilament(filamentOf(filament.name, target.value as Material))
                    }
                  >
                    {Object.keys(MATERIALS).map((name) => (
                      <option key={name}>{name}</option>
                    ))}
                  </select>
                </Labelled>
                <Labelled label="Filament’s name">
                  <input
                    className="input w-full"
                    name="filament-name"
                    required
                    maxLength={80}
                    value={filament.name}
                    onChange={({ target }) => setFilament({ ...filament, name: target.value })}
                  />
                </Labelled>
              </div>
              <div className="grid gap-3 sm:grid-cols-3">
                <NumberField
                  label="Coolest on its label"
                  unit="°C"
                  value={filament.nozzle.min}
                  onChange={(min) =>
                    setFilament({ ...filament, nozzle: { ...filament.nozzle, min } })
                  }
                />
                <NumberField
                  label="Hottest on its label"
                  unit="°C"
                  value={filament.nozzle.max}
                  onChange={(max) =>
                    setFilament({ ...filament, nozzle: { ...filament.nozzle, max } })
                  }
                />
                <NumberField
                  label="Bed"
                  unit="°C"
                  value={filament.bed}
                  onChange={(temperature) => setFilament({ ...filament, bed: temperature })}
                />
              </div>
            </div>
          )}
        </fieldset>
        <div className="bg-base-100 border-base-300 sticky bottom-0 col-span-full border-t py-3">
          <Problems problems={problems} />
          <SubmitButton busy={busy} needs="change">
            Make this bench
          </SubmitButton>
        </div>
      </form>
      {!told && <ReportPaste onTake={take} />}
    </section>
  );
}

function Choice({
  label,
  value,
  things,
  other,
  onChoose,
}: {
  label: string;
  value: number | null;
  things: Named[];
  other: string;
  onChoose: (id: number | null) => void;
}) {
  return (
    <select
      aria-label={label}
      className="select mb-3 w-full"
      value={value ?? 'new'}
      onChange={({ target }) => onChoose(target.value === 'new' ? null : Number(target.value))}
    >
      {things.map(({ id, name }) => (
        <option key={id} value={id}>
          {name}
        </option>
      ))}
      <option value="new">{other} …</option>
    </select>
  );
}
