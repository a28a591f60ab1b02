'use client';
// How much an axis moves at each frequency, frequencies upward as heights are elsewhere; read out with the arrow keys.
import { LineChart, ScatterChart } from 'echarts/charts';
import { GridComponent, TooltipComponent, MarkLineComponent } from 'echarts/components';
import * as echarts from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import { useEffect, useRef, useState } from 'react';
import { short } from '@/core/numbers';
import { KEPT_STEP, type KeptShake } from '@/core/shake/kept';

echarts.use([
  LineChart,
  ScatterChart,
  GridComponent,
  TooltipComponent,
  MarkLineComponent,
  SVGRenderer,
]);

/** Highest frequency that is drawn, Hz. */
const TOP_HZ = 135;
const STEPS = TOP_HZ / KEPT_STEP;

type Props = {
  found: KeptShake;
  /** Drawn as a line over it. */
  beside: { name: string; found: KeptShake } | null;
  shows: Shows;
  /** Frequency of the shaper that is chosen, Hz. */
  shaper: number | null;
};
export type Shows = 'power' | 'response';

/** What a curve has at each half hertz, where anything is known of it. */
export function curveOf({ spectrum, response }: KeptShake, shows: Shows): (number | null)[] {
  if (shows === 'power') return Array.from({ length: STEPS + 1 }, (_, i) => spectrum?.[i] ?? null);
  const at = new Map(response?.hz.map((hz, i) => [Math.round(hz / KEPT_STEP), response.ratio[i]!]));
  return Array.from({ length: STEPS + 1 }, (_, i) => at.get(i) ?? null);
}

export function SpectrumChart({ found, beside, shows, shaper }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const [at, setAt] = useState<number | null>(null);
  useEffect(() => {
    if (!box.current) return;
    const chart = echarts.init(box.current, null, { renderer: 'svg' });
    const style = getComputedStyle(document.documentElement);
    const draw = () =>
      chart.setOption(
        optionOf({ found, beside, shows, shaper, at }, chart.getWidth(), (name) =>
          style.getPropertyValue(name).trim(),
        ),
      );
    draw();
    const observer = new ResizeObserver(() => {
      chart.resize();
      draw();
    });
    observer.observe(box.current);
    return () => {
      observer.disconnect();
      chart.dispose();
    };
  }, [found, beside, shows, shaper, at]);
  const curve = curveOf(found, shows);
  const value = at === null ? null : curve[at];
  return (
    <div>
      <div
        ref={box}
        tabIndex={0}
        className="h-[26rem] w-full lg:h-[calc(100vh-13rem)] lg:min-h-[30rem]"
        role="img"
        aria-label={`${shows === 'power' ? 'Power' : 'How much of the shaking was felt'} from 0 to ${TOP_HZ} Hz. Arrow keys read it out.`}
        onKeyDown={(event) => {
          const by = { ArrowUp: 1, ArrowDown: -1, PageUp: 20, PageDown: -20 }[event.key];
          if (event.key === 'Escape') setAt(null);
          if (by === undefined) return;
          event.preventDefault();
          const main = Math.round((found.peaks[0]?.hz ?? 40) / KEPT_STEP);
          setAt((now) => (now === null ? main : Math.max(0, Math.min(STEPS, now + by))));
        }}
        onBlur={() => setAt(null)}
      />
      <p className="soft h-6 tabular-nums" aria-live="polite">
        {at === null ? '' : `${short(at * KEPT_STEP, 1)} Hz: ${saidAt(value ?? null, shows)}`}
      </p>
    </div>
  );
}

const saidAt = (value: number | null, shows: Shows): string =>
  value === null
    ? 'not known'
    : shows === 'power'
      ? `${short(100 * value, 1)} % of the highest power`
      : `${short(value, 2)} times what was put in`;

/** Names of peaks, so that they can be told apart without a legend. */
const WORDS = { axis: '', panel: ', rattles beside the axis', steady: ', hums by itself' };

function optionOf(
  { found, beside, shows, shaper, at }: Props & { at: number | null },
  width: number,
  colour: (name: string) => string,
): echarts.EChartsCoreOption {
  const ink = colour('--color-base-content');
  const text = { color: colour('--color-neutral'), fontSize: 13 };
  const curve = curveOf(found, shows);
  const names = curve.map((_, i) => short(i * KEPT_STEP, 1));
  const lines = [
    ...(shaper === null
      ? []
      : [
          { at: Math.round(shaper / KEPT_STEP), says: `shaper ${short(shaper, 1)} Hz`, main: true },
        ]),
    ...(at === null ? [] : [{ at, says: '', main: false }]),
  ];
  const narrow = width < 520;
  const highest = Math.max(...curve.map((one) => one ?? 0), 1e-9);
  return {
    animation: false,
    grid: { left: 52, right: 8, top: 10, bottom: 16 },
    tooltip: {
      trigger: 'axis',
      axisPointer: { type: 'line' },
      formatter: ([first]: { dataIndex: number }[]) =>
        `${short(first!.dataIndex * KEPT_STEP, 1)} Hz: ${saidAt(curve[first!.dataIndex] ?? null, shows)}`,
    },
    xAxis: {
      type: 'value',
      min: 0,
      // What peaks are called stands beside them.
      max: highest * (narrow ? 1.7 : 1.5),
      axisLabel: { show: false },
      splitLine: { show: false },
      axisLine: { show: false },
    },
    yAxis: {
      type: 'category',
      data: names,
      boundaryGap: false,
      axisLabel: {
        ...text,
        interval: (i: number) => i % (10 / KEPT_STEP) === 0,
        formatter: (name: string) => `${name} Hz`,
      },
      axisTick: { interval: (i: number) => i % (10 / KEPT_STEP) === 0 },
      axisLine: { lineStyle: { color: colour('--color-base-300') } },
    },
    series: [
      {
        type: 'line',
        showSymbol: false,
        lineStyle: { color: colour('--color-neutral'), width: 1.5 },
        itemStyle: { color: colour('--color-neutral') },
        areaStyle: { color: colour('--color-secondary'), opacity: 0.75 },
        data: curve,
        markLine: {
          silent: true,
          symbol: 'none',
          data: lines.map(({ at: y, says, main }) => ({
            yAxis: y,
            lineStyle: {
              color: main ? colour('--color-primary') : ink,
              type: main ? 'dashed' : 'solid',
              width: 1.5,
            },
            label: {
              formatter: says,
              position: 'insideEndTop',
              color: colour('--color-primary'),
              fontSize: 13,
            },
          })),
        },
      },
      ...(beside
        ? [
            {
              type: 'line',
              showSymbol: false,
              lineStyle: { color: colour('--color-primary'), width: 1.8, type: 'solid' },
              itemStyle: { color: colour('--color-primary') },
              data: curveOf(beside.found, shows),
            },
          ]
        : []),
      {
        type: 'scatter',
        symbolSize: 7,
        silent: true,
        itemStyle: { color: ink },
        data: found.peaks
          .filter(({ hz }) => hz <= TOP_HZ)
          .map((peak, i) => {
            const step = Math.round(peak.hz / KEPT_STEP);
            return {
              value: [curve[step] ?? 0, step],
              label: {
                show: true,
                position: 'right',
                // The line of the shaper may lie close above it, or below.
                ...(i === 0 && shaper !== null
                  ? { offset: [0, shaper >= peak.hz ? 12 : -12] }
                  : {}),
                color: ink,
                fontSize: i === 0 ? 15 : 13,
                fontWeight: i === 0 ? 600 : 400,
                formatter: `${short(peak.hz, 1)} Hz${narrow ? '' : i === 0 ? `, damping ${short(peak.damping, 2)}` : WORDS[peak.of]}`,
              },
            };
          }),
      },
    ],
  };
}
