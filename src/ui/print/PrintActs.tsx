// What to do with a file: one thing first, what else can be done with it behind that.
import Link from 'next/link';
import { ActButton, type Outcome } from '../common/ActButton';
import { OnPhone } from '../common/OnPhone';

type Props = {
  /** Of the machine. */
  name: string;
  file: { id: number; name: string };
  ladder: number;
  machineHref: string;
  wire: { link: 'off' | 'looking' | 'ready' | 'busy'; simulated: boolean } | null;
  atMachine: boolean;
  /** How often the ladder was printed. */
  copies: number;
  /** Whether that was this very file. */
  isPrinted: boolean;
  print: () => Promise<Outcome>;
  printed: () => Promise<Outcome>;
  elsewhere: React.ComponentProps<typeof OnPhone>['path'];
  hosts: React.ComponentProps<typeof OnPhone>['hosts'];
};

/** The one thing that comes first. */
function firstOf({
  wire,
  atMachine,
  isPrinted,
}: Props): 'score' | 'printed' | 'print' | 'download' {
  if (isPrinted) return 'score';
  if (wire?.link === 'ready') return 'print';
  return atMachine ? 'printed' : 'download';
}

export function PrintActs(props: Props) {
  const { name, file, ladder, machineHref, wire, copies } = props;
  const first = firstOf(props);
  const look = (which: typeof first) => (first === which ? 'btn-main' : 'btn-quiet');
  const acts = {
    score: copies > 0 && (
      <Link key="score" className={look('score')} href={`/ladder/${ladder}/read`}>
        Score it
      </Link>
    ),
    print: wire?.link === 'ready' && (
      <ActButton key="print" className={look('print')} needs="start" act={props.print}>
        {wire.simulated ? `Print on ${name}, simulated` : `Print on ${name}`}
      </ActButton>
    ),
    download: (
      <a
        key="download"
        className={look('download')}
        href={`/files/${file.id}`}
        download={file.name}
      >
        Download
      </a>
    ),
    printed: (
      <ActButton key="printed" className={look('printed')} act={props.printed}>
        {copies === 0 ? 'Printed: score it' : 'Printed again: score it'}
      </ActButton>
    ),
  };
  return (
    <>
      <div className="mt-4 flex flex-wrap items-center gap-2">
        {acts[first]}
        {(['print', 'download'] as const).map((one) => one !== first && acts[one])}
        {wire?.link !== 'ready' && (
          <Link className="btn-quiet" href={machineHref}>
            {wire?.link === 'busy' ? `${name} is printing` : `Connect ${name}`}
          </Link>
        )}
        <Link className="btn btn-ghost font-normal" href={`/inspect?file=${file.id}`}>
          Inspect
        </Link>
        <Link className="btn btn-ghost font-normal" href={`/ladder/${ladder}/sheet`}>
          Score sheet
        </Link>
      </div>
      <div className="border-base-300 mt-4 flex flex-wrap items-center gap-x-3 gap-y-2 border-t pt-3">
        <span className="soft">
          {copies === 0
            ? 'Once it is printed'
            : copies === 1
              ? 'Printed once'
              : `Printed ${copies} times`}
        </span>
        {first !== 'printed' && acts.printed}
        <OnPhone label="Score it on the phone" path={props.elsewhere} hosts={props.hosts} />
      </div>
    </>
  );
}
