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
    <section className="mx-auto max-w-3xl px-4 py-8">
      <h1>A bench: machine, nozzle, filament</h1>
      <p className="mt-2">
        {told
          ? 'Use what is right for your machine, choose the rest. Nothing is used until you say so.'
          : 'Choose what comes closest, then change what differs. You can refine the rest later.'}
      </p>
      {told ? (
        <div className="mt-6">
          <ToldList told={told} onTake={take} onLine={onLine} />
        </div>
      ) : (
        <ReportPaste onTake={take} />
      )}
      <form
        ref={form}
        className="mt-6 space-y-8"
        onChange={() => problems.length > 0 && setProblems([])}
        onSubmit={(event) => {
          event.preventDefault();
          void submit();
        }}
      >
        <fieldset>
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
              <Labelled label="Starting point">
                <select
                  className="select w-full"
                  value={preset}
                  onChange={({ target }) => {
                    const next = target.value as MachinePreset;
                    setPreset(next);
                    setMachine({ ...fresh(next), name: machine.name });
                  }}
                >
                  {Object.entries(MACHINE_KINDS).map(([key, title]) => (
                    <option key={key} value={key}>
                      {title}
                    </option>
                  ))}
                </select>
              </Labelled>
              <Labelled label="Its name">
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
                className={`btn font-normal ${bore === one ? 'btn-neutral' : 'btn-quiet'}`}
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
                <Labelled label="Its name">
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
                  label="Label, from"
                  unit="°C"
                  value={filament.nozzle.min}
                  onChange={(min) =>
                    setFilament({ ...filament, nozzle: { ...filament.nozzle, min } })
                  }
                />
                <NumberField
                  label="Label, to"
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
        <Problems problems={problems} />
        <SubmitButton busy={busy} needs="change">
          Make this bench
        </SubmitButton>
      </form>
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
