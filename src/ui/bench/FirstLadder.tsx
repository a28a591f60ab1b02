// What a ladder is, at a glance: a tower whose value climbs, for those who have none yet.
import { css, inkOn, scaleColour } from '@/core/view/scale';

const VALUES = [225, 220, 215, 210, 205, 200, 195, 190];
const RUNG = 58;
const WIDE = 330;
const BASE = 12;

export function FirstLadder() {
  const height = VALUES.length * RUNG + BASE;
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${height}`}
      className="h-auto w-full max-w-[330px] lg:h-[min(620px,calc(100dvh-10rem))] lg:w-auto"
      role="img"
      aria-label="A temperature ladder: a tower of eight rungs, each printed 5 °C cooler than the one below"
    >
      <rect x={4} y={height - BASE} width={WIDE - 60} height={BASE} className="fill-secondary" />
      {VALUES.map((value, i) => {
        const share = 1 - i / (VALUES.length - 1);
        const y = height - BASE - (i + 1) * RUNG;
        const end = WIDE - 90;
        return (
          <g key={value} fill={css(scaleColour(share))}>
            <rect x={16} y={y} width={92} height={RUNG} />
            <rect x={108} y={y} width={end - 158} height={7} />
            <path d={`M128 ${y + RUNG}v-12l6-8-6-8v-6h22v6l-6 8 6 8v12z`} />
            <path d={`M162 ${y + RUNG}v-12l6-8-6-8v-6h18v6l-6 8 6 8v12z`} />
            <path
              d={`M190 ${y}H${end}l34 ${RUNG * 0.52}L${end} ${y + RUNG * 0.9}V${y + RUNG}H190z`}
            />
            <text
              x={62}
              y={y + RUNG / 2 + 9}
              textAnchor="middle"
              fontSize={26}
              fontWeight={700}
              fill={inkOn(share)}
            >
              {value}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
