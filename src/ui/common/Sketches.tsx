// Small drawings for pages that have nothing of one's own to show yet: what happens there, at a glance.
import type { ReactNode } from 'react';
import { css, scaleColour } from '@/core/view/scale';

const line = 'stroke-base-content fill-none';
const soft = 'stroke-neutral fill-none';
const wood = 'fill-secondary';
const plum = 'stroke-primary fill-none';
const paper = 'fill-base-200 stroke-base-content';

function Sketch({
  wide,
  tall,
  says,
  children,
}: {
  wide: number;
  tall: number;
  says: string;
  children: ReactNode;
}) {
  return (
    <svg
      viewBox={`0 0 ${wide} ${tall}`}
      className="h-auto w-full max-w-xl"
      strokeWidth={2}
      fontSize={13}
      role="img"
      aria-label={says}
    >
      {children}
    </svg>
  );
}

/** A tower of rungs, as everywhere. */
const tower = (x: number, foot: number, rung: number, count: number) =>
  Array.from({ length: count }, (_, i) => (
    <path
      key={i}
      d={`M${x} ${foot - i * rung}v${1 - rung}h${4.2 * rung}l${0.7 * rung} ${rung / 2}l${-0.7 * rung} ${rung / 2 - 1}z`}
      fill={css(scaleColour(count > 1 ? 1 - i / (count - 1) : 0.5))}
    />
  ));

/** A computer and a phone on one network, the print between them. */
export const PhoneSketch = () => (
  <Sketch
    wide={520}
    tall={260}
    says="The computer shows a code, the phone reads it, and its keys score the print beside the machine"
  >
    <rect x={14} y={50} width={170} height={112} rx={6} className={paper} />
    <path d="M74 190h50M99 162v28" className={line} />
    <g className="fill-base-content">
      {[0, 1, 2, 3, 4].flatMap((row) =>
        [0, 1, 2, 3, 4].map((column) =>
          (row * 7 + column * 5 + row * column) % 3 === 0 ? null : (
            <rect
              key={`${row} ${column}`}
              x={69 + column * 12}
              y={76 + row * 12}
              width={11}
              height={11}
            />
          ),
        ),
      )}
    </g>
    <path d="M206 84a40 40 0 0 1 0 44M222 70a62 62 0 0 1 0 72" className={plum} />
    <rect x={262} y={24} width={112} height={206} rx={14} className={paper} />
    <g transform="translate(276 44)">{tower(0, 78, 13, 6)}</g>
    {[0, 1, 2, 3, 4, 5].map((key) => (
      <g key={key}>
        <rect
          x={273 + (key % 3) * 31}
          y={140 + Math.floor(key / 3) * 38}
          width={27}
          height={32}
          rx={4}
          className={key === 3 ? 'fill-primary' : 'fill-base-100 stroke-neutral'}
          strokeWidth={1.4}
        />
        <text
          x={286.5 + (key % 3) * 31}
          y={161 + Math.floor(key / 3) * 38}
          textAnchor="middle"
          fontWeight={700}
          className={key === 3 ? 'fill-primary-content' : 'fill-base-content'}
        >
          {key === 5 ? '?' : key}
        </text>
      </g>
    ))}
    <path d="M408 230V40H506V230M408 78H506" className={line} />
    <rect x={446} y={70} width={22} height={26} className={wood} />
    <path d="M451 96h12l-6 9z" className="fill-primary" />
    <rect x={414} y={218} width={86} height={8} className={wood} />
    <g transform="translate(428 217)">{tower(0, 0, 12, 7)}</g>
  </Sketch>
);

/** A cable, and what goes over it. */
export const WireSketch = () => (
  <Sketch
    wide={520}
    tall={220}
    says="The computer sends lines to the machine and reads back what it has: temperatures, settings, where it is"
  >
    <rect x={14} y={34} width={150} height={100} rx={6} className={paper} />
    <path d="M64 162h50M89 134v28" className={line} />
    <path d="M30 58h70M30 74h94M30 90h52M30 106h84" className={soft} />
    <path d="M164 96C230 96 250 150 350 150" className={line} />
    <path d="M206 84l60-8-8-7M266 76l-8 8" className={plum} />
    <path d="M276 166l-60 8 8-8M216 174l9 7" className={plum} />
    <text x={236} y={62} textAnchor="middle" className="fill-neutral">
      lines of a file
    </text>
    <text x={250} y={202} textAnchor="middle" className="fill-neutral">
      heat, values, what is sure
    </text>
    <path d="M360 200V24H500V200M360 66H500" className={line} />
    <rect x={416} y={58} width={24} height={28} className={wood} />
    <path d="M421 86h14l-7 10z" className="fill-primary" />
    <rect x={376} y={188} width={108} height={8} className={wood} />
    <g transform="translate(400 187)">{tower(0, 0, 13, 6)}</g>
  </Sketch>
);

/** A sensor on the head, what it feels, and what follows. */
export const ShakeSketch = () => (
  <Sketch
    wide={560}
    tall={210}
    says="A sensor on the head is shaken; it tells at which frequency the machine rings; from that follow a shaper and the acceleration that still prints clean"
  >
    <path d="M14 60H174" className={line} />
    <rect x={66} y={42} width={52} height={66} className={wood} />
    <path d="M84 108h16l-8 12z" className="fill-primary" />
    <rect x={78} y={66} width={28} height={20} rx={2} className="fill-base-100 stroke-primary" />
    <path d="M106 76C150 76 150 140 176 140" className={plum} />
    <path d="M34 96h-20M150 96h20M20 90l-6 6 6 6M164 90l6 6-6 6" className={line} />
    <text x={92} y={190} textAnchor="middle" className="fill-neutral">
      a sensor on what moves
    </text>
    <path d="M206 40V160H360" className={soft} />
    <path
      d="M206 158C226 156 236 150 244 132C252 108 254 52 262 52C270 52 272 108 282 134C290 152 300 142 306 138C314 134 318 154 356 157"
      className={line}
    />
    <path d="M262 52V160" className={plum} strokeDasharray="5 4" />
    <text x={284} y={190} textAnchor="middle" className="fill-neutral">
      rings at one frequency
    </text>
    <g transform="translate(398 54)">
      <path d="M0 100V0H150" className={soft} strokeDasharray="4 4" strokeWidth={1.2} />
      <path
        d="M0 100V14Q0 0 14 0c10 0 12-7 18-7s8 12 14 12 8-9 14-9 8 7 14 7 8-5 14-5 8 3 14 3 8-2 14-2h20"
        className={line}
        opacity={0.35}
      />
      <path d="M0 100V18Q0 0 18 0H150" className={line} strokeWidth={3} />
    </g>
    <text x={474} y={190} textAnchor="middle" className="fill-neutral">
      corners without a ghost
    </text>
  </Sketch>
);

/** A camera straight before a print, light from the side, and what is told of each rung. */
export const LoupeSketch = () => (
  <Sketch
    wide={560}
    tall={230}
    says="A camera straight before the whole print, light that grazes its face, and a number for each rung"
  >
    <rect x={14} y={86} width={74} height={52} rx={6} className={paper} />
    <circle cx={51} cy={112} r={17} className={line} />
    <circle cx={51} cy={112} r={7} className={wood} />
    <path d="M96 104L196 34M96 120L196 192" className={soft} strokeDasharray="5 5" />
    <g transform="translate(212 192)">{tower(0, 0, 19, 8)}</g>
    <g className={plum}>
      {[
        [206, 38],
        [312, 38],
        [206, 194],
        [312, 194],
      ].map(([x, y]) => (
        <circle key={`${x} ${y}`} cx={x} cy={y} r={6} />
      ))}
    </g>
    <circle cx={252} cy={14} r={8} className="fill-warning" />
    <path d="M240 18l-14 12M264 18l14 12M252 25v9" className="stroke-warning" />
    {[0.42, 0.5, 0.38, 0.3, 0.22, 0.3, 0.5, 0.72].map((size, i) => (
      <g key={i}>
        <path
          d={`M346 ${183 - i * 19}H${346 + 200 * size}`}
          className={i === 4 ? plum : line}
          strokeWidth={5}
          opacity={i === 4 ? 1 : 0.45}
        />
        <path d={`M${328 + 200 * size} ${183 - i * 19}h36`} className={soft} strokeWidth={1.4} />
      </g>
    ))}
    <text x={51} y={218} textAnchor="middle" className="fill-neutral">
      straight
    </text>
    <text x={260} y={218} textAnchor="middle" className="fill-neutral">
      all of it, lit from the side
    </text>
    <text x={430} y={218} textAnchor="middle" className="fill-neutral">
      a number for each rung
    </text>
  </Sketch>
);

/** A shelf with what was put on it. */
export const ShelfSketch = () => (
  <Sketch
    wide={420}
    tall={170}
    says="What is archived stands on a shelf and is brought back from it"
  >
    <path d="M20 140H400" className={line} strokeWidth={4} />
    <rect x={44} y={92} width={56} height={46} className={paper} />
    <circle cx={150} cy={110} r={28} className={paper} />
    <circle cx={150} cy={110} r={9} className={wood} />
    <g transform="translate(206 138)">{tower(0, 0, 13, 6)}</g>
    <path d="M306 120C330 60 372 60 384 100M384 100l-12-8M384 100l8-12" className={plum} />
  </Sketch>
);
