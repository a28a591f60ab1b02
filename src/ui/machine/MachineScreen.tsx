'use client';
// A machine on the wire: how warm it is, what it has, and what is said to it.
import { useCallback, useEffect, useMemo, useState } from 'react';
import { comparedInWords, compareSettings, type ComparedSetting } from '@/core/bench/compare';
import { fileChanges } from '@/core/bench/file-changes';
import { settingsIn, type ReportedSetting } from '@/core/bench/reported';
import type { Setting, Values } from '@/core/bench/settings';
import type { Dialect } from '@/core/dialect/dialect';
import { owedSaid, whenSaid } from '@/core/owed';
import type { LinkState } from '@/core/link-state';
import type { Problem, Result } from '@/core/result';
import { ActButton, type Outcome } from '../common/ActButton';
import { attempt } from '../common/attempt';
import { Problems } from '../common/Problems';
import { ConnectForm } from './ConnectForm';
import { ExtruderSteps, type Slowly, type StepsActs } from './ExtruderSteps';
import { HeaterTuning } from './HeaterTuning';
import { HeatForm } from './HeatForm';
import { HeatLine } from './HeatLine';
import { isOver, JobPanel, type JobActs } from './JobPanel';
import { PutHistory, type PutRow } from './PutHistory';
import { SettingsFile } from './SettingsFile';
import { SettingsTable } from './SettingsTable';
import { StopEverything } from './StopEverything';
import { Talk } from './Talk';
import { useMachine } from './useMachine';

type Has = { settings: ReportedSetting[]; stored: ReportedSetting[] | null; notes: string[] };

export type MachineActs = JobActs &
  StepsActs & {
    connect: (address: string) => Promise<Outcome>;
    disconnect: () => Promise<Outcome>;
    read: (stored: boolean) => Promise<Result<Has>>;
    apply: (setting: Setting, value: number) => Promise<Outcome>;
    store: () => Promise<Outcome>;
    takeBack: (id: number) => Promise<Outcome>;
    takeOver: (setting: Setting) => Promise<Outcome>;
    tune: (celsius: number) => Promise<Outcome>;
    applyTuning: () => Promise<Outcome>;
    say: (line: string) => Promise<Outcome>;
    heat: (nozzle: number | null, bed: number | null) => Promise<Outcome>;
    idleAfter: (minutes: number) => Promise<Outcome>;
    stopEverything: () => Promise<Outcome>;
    printKept: (id: number) => Promise<Outcome>;
  };

type Props = {
  machine: number;
  name: string;
  first: LinkState | null;
  /** Current values of the ledger: found on the real machine, and on a simulated one. */
  found: { real: Values; simulated: Values };
  /** What each has of them already, of the settings that come on top of what files say. */
  carried: { real: Setting[]; simulated: Setting[] };
  /** The commands that it takes; whether it stores by one of them or in a file. */
  dialect: Dialect;
  usual: { nozzle: number; bed: number };
  slowly: Slowly;
  /** °C at which its material is still extruded. */
  coldest: number;
  ports: readonly { path: string; about: string }[];
  standIns: readonly { address: string; name: string; machine: string }[];
  last: string | null;
  /** Files from elsewhere that are kept with this bench. */
  kept: readonly { id: number; name: string }[];
  history: readonly PutRow[];
  nowMs: number;
  acts: MachineActs;
  /** Where the ladder of a file is. */
  ladderOf: Record<number, string>;
};

export function MachineScreen(props: Props) {
  const { machine, name, first, acts } = props;
  const state = useMachine(machine, first);
  if (!state)
    return (
      <Main>
        <p role="status">The part of Ash Ladder that talks to machines is starting.</p>
      </Main>
    );
  const { link, why, job } = state;
  const reached = link === 'ready' || link === 'busy';
  if (!reached)
    return (
      <Main>
        <section>
          {why && (
            <p role="status" className="border-warning mb-6 border-l-4 pl-4">
              {why} {link === 'looking' && 'It is being looked for.'}
            </p>
          )}
          {job && isOver(job) && job.why && !why?.startsWith(job.why) && (
            <p className="mb-4">{job.why}</p>
          )}
          <ConnectForm
            name={name}
            ports={props.ports}
            standIns={props.standIns}
            last={props.last}
            connect={acts.connect}
          />
        </section>
        <PutHistory
          rows={props.history}
          nowMs={props.nowMs}
          reached={false}
          takeBack={acts.takeBack}
        />
      </Main>
    );
  return <Linked {...props} state={state} />;
}

function Main({ children }: { children: React.ReactNode }) {
  return <main className="px-4 py-6 lg:px-7">{children}</main>;
}

function Linked({ state, ...props }: Props & { state: LinkState }) {
  const { acts, name } = props;
  const { heat, job, simulated, coolsInS, why, about } = state;
  const hot = (heat.nozzle?.target ?? 0) > 0 || (heat.bed?.target ?? 0) > 0;
  const printing = job !== null && !isOver(job);
  return (
    <main className="space-y-6 px-4 py-6 max-lg:pb-24 lg:px-7 lg:py-4">
      <section aria-label="Heat" className="border-base-300 border-b pb-4">
        <div className="flex flex-wrap items-start gap-x-10 gap-y-3">
          <div className="min-w-0 flex-1 basis-80">
            <HeatLine heat={heat} />
            {!printing && (
              <HeatForm
                usual={props.usual}
                hot={hot}
                coolsInS={coolsInS}
                idleMin={state.idleMin}
                heat={acts.heat}
                idleAfter={acts.idleAfter}
              />
            )}
          </div>
          <div className="w-full max-w-72">
            <StopEverything stop={acts.stopEverything} />
          </div>
        </div>
        {why && <p className="border-warning mt-4 border-l-4 pl-3">{why}</p>}
        {state.owed?.state === 'told' && (
          <p role="status" className="border-warning mt-4 border-l-4 pl-3" suppressHydrationWarning>
            {owedSaid(state.owed, whenSaid(state.owed.since, props.nowMs))}
          </p>
        )}
        <div className="mt-3 flex flex-wrap items-center gap-x-4 gap-y-2">
          <p className="soft min-w-0 flex-1 basis-60">
            {simulated ? (
              <>
                <b>Simulated</b>: {simulated.name} stands in for {name}.
              </>
            ) : (
              about
            )}
          </p>
          {!printing && (
            <ActButton className="btn-quiet btn-sm" act={acts.disconnect}>
              Disconnect
            </ActButton>
          )}
        </div>
      </section>
      <div className="min-w-0">
        {job && (
          <div className="mb-8">
            <JobPanel
              job={job}
              acts={acts}
              href={job.file === null ? null : (props.ladderOf[job.file] ?? null)}
            />
          </div>
        )}
        {!printing && (
          <SideBySide
            {...props}
            state={state}
            done={props.history.map(({ id, takenBack }) => `${id}${takenBack}`).join()}
          />
        )}
        {!printing && <KeptFiles files={props.kept} print={acts.printKept} />}
        {!printing && (
          <HeaterTuning
            tuning={state.tuning}
            usual={props.usual.nozzle}
            stores={props.dialect.save !== ''}
            acts={acts}
          />
        )}
        <Talk lines={state.talk} say={acts.say} />
        <PutHistory rows={props.history} nowMs={props.nowMs} reached takeBack={acts.takeBack} />
      </div>
    </main>
  );
}

function KeptFiles({ files, print }: { files: Props['kept']; print: MachineActs['printKept'] }) {
  if (files.length === 0) return null;
  return (
    <section className="rule-above" aria-label="Print a file">
      <h2>Print a file that you kept</h2>
      <ul className="divide-base-300 divide-y">
        {files.map(({ id, name }) => (
          <li key={id} className="flex items-center gap-3 py-1">
            <span className="min-w-0 flex-1 font-mono text-sm break-all">{name}</span>
            <ActButton
              className="btn-quiet btn-sm"
              needs="start"
              label={`Print ${name}`}
              working="Checking it …"
              act={() => print(id)}
            >
              Print it
            </ActButton>
          </li>
        ))}
      </ul>
      <p className="soft">A file that fails its check is not printed.</p>
    </section>
  );
}

function SideBySide({
  acts,
  found,
  carried,
  dialect,
  usual,
  slowly,
  coldest,
  state,
  done,
}: Pick<Props, 'acts' | 'found' | 'carried' | 'dialect' | 'usual' | 'slowly' | 'coldest'> & {
  state: LinkState;
  done: string;
}) {
  const simulated = state.simulated !== null;
  const stores = dialect.save !== '';
  const [has, setHas] = useState<Has | null>(null);
  const [problems, setProblems] = useState<Problem[]>([]);
  const { read } = acts;
  const look = useCallback(
    async (stored: boolean) => {
      const answer = await attempt(() => read(stored));
      // What was read of the stored ones stands until they are read again.
      if (answer.ok)
        setHas((before) => ({
          ...answer.value,
          stored: answer.value.stored ?? (stored ? null : (before?.stored ?? null)),
        }));
      setProblems(answer.ok ? [] : answer.problems);
      return answer;
    },
    [read],
  );
  useEffect(() => {
    // Read when the page is opened, and when something was put into the machine from elsewhere.
    void Promise.resolve().then(() => look(false));
  }, [look, done]);
  const ledger = simulated ? found.simulated : found.real;
  const added = simulated ? carried.simulated : carried.real;
  const [pasted, setPasted] = useState('');
  const inFile = useMemo(
    () => (pasted.trim() === '' ? null : settingsIn(dialect, pasted)),
    [pasted, dialect],
  );
  const rows = useMemo(
    () => (has ? compareSettings(ledger, has.settings, inFile ?? has.stored, added) : []),
    [has, ledger, inFile, added],
  );
  const stored = has?.stored !== null && has?.stored !== undefined;
  const toWrite = fileChanges(dialect, rows, inFile);
  const after = async (act: Promise<Outcome>, withStored: boolean): Promise<Outcome> => {
    const done = await act;
    if (!done.ok) return done;
    return look(withStored);
  };
  const apply = ({ setting, ledger: value }: ComparedSetting) =>
    after(acts.apply(setting, value!), stored);
  const store = () => after(acts.store(), true);
  const differing = rows.filter(({ wants }) => wants === 'apply');
  const all = async (): Promise<Outcome> => {
    for (const { setting, ledger: value } of differing) {
      const done = await acts.apply(setting, value!);
      if (!done.ok) return done;
    }
    return stores ? store() : look(false);
  };
  const present = has?.settings.find(
    ({ setting }) => setting === 'steps' || setting === 'rotation',
  );
  return (
    <>
      <section aria-label="Settings">
        <h1 className="text-2xl font-semibold lg:text-3xl">
          {has
            ? comparedInWords(rows, stored || inFile !== null)
            : problems.length > 0
              ? 'Its settings could not be read'
              : 'Reading its settings …'}
        </h1>
        <Problems problems={problems} />
        {has && (
          <SettingsTable
            rows={rows}
            storedRead={stored}
            apply={apply}
            store={stores ? store : null}
            takeOver={(row) => acts.takeOver(row.setting)}
          />
        )}
        <div className="mt-4 flex flex-wrap gap-2">
          {differing.length > 0 && (
            <ActButton className="btn-main" needs="start" working="Applying …" act={all}>
              {differing.length > 1 ? 'Apply all' : 'Apply it'}
              {stores ? ', prove, store' : ' and prove'}
            </ActButton>
          )}
          <ActButton className="btn-quiet" working="Reading …" act={() => look(stored)}>
            Read again
          </ActButton>
          {stores && !stored && has && (
            <ActButton className="btn-quiet" working="Reading …" act={() => look(true)}>
              Read what is stored
            </ActButton>
          )}
        </div>
        {!stores && has && <SettingsFile changes={toWrite} pasted={pasted} paste={setPasted} />}
        {has?.notes.map((note) => (
          <p key={note} className="soft mt-2">
            {note}
          </p>
        ))}
        <p className="soft mt-3">
          Applied means the machine confirmed the value when asked again. Stored is confirmed in the
          same way.
        </p>
      </section>
      {present && (
        <ExtruderSteps
          present={{ setting: present.setting as 'steps' | 'rotation', value: present.value }}
          nozzle={state.heat.nozzle}
          usual={usual.nozzle}
          slowly={slowly}
          coldest={coldest}
          feeding={state.feeding}
          simulated={simulated}
          stores={stores}
          acts={acts}
        />
      )}
    </>
  );
}
