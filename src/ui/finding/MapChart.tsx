'use client';
// Pressure advance over melt flow, a line for each acceleration, and what was read of each cell.
import { LineChart, ScatterChart } from 'echarts/charts';
import { GridComponent, TooltipComponent } from 'echarts/components';
import * as echarts from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import { useEffect, useRef } from 'react';
import { short } from '@/core/numbers';
import type { AdvanceMap } from '@/core/reading/find-map';
import { css, scaleColour } from '@/core/view/scale';

echarts.use([LineChart, ScatterChart, GridComponent, TooltipComponent, SVGRenderer]);

/** Dots of one flow stand this far apart, mm³/s. */
const BESIDE = 0.12;

type Props = { map: AdvanceMap; single: number | null };

export function MapChart({ map, single }: Props) {
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!box.current) return;
    const chart = echarts.init(box.current, null, { renderer: 'svg' });
    // Its ground is paper in either theme, so that the dark end of the scale is seen: so is its ink.
    chart.setOption(optionOf(map, single, getComputedStyle(box.current).color));
    const observer = new ResizeObserver(() => chart.resize());
    observer.observe(box.current);
    return () => {
      observer.disconnect();
      chart.dispose();
    };
  }, [map, single]);
  const values = map.rows.map(({ advance }) => advance);
  const accelerations = accelerationsOf(map);
  return (
    <div className="sheet rounded p-3">
      <p className="flex flex-wrap gap-x-6" aria-hidden>
        {accelerations.map((acceleration, i) => (
          <span key={acceleration} className="flex items-center gap-2">
            <i
              className="inline-block h-1 w-6 rounded"
              style={{ background: colourAt(i, accelerations.length) }}
            />
            {short(acceleration)} mm/s²
          </span>
        ))}
        {single !== null && (
          <span className="flex items-center gap-2">
            <i className="inline-block w-6 border-t-2 border-current border-dashed" />
            one value for all
          </span>
        )}
      </p>
      <div
        ref={box}
        className="h-80 w-full lg:h-[26rem]"
        role="img"
        aria-label={`Pressure advance from ${short(Math.max(...values))} to ${short(Math.min(...values))} s over melt flow, a line for each acceleration`}
      />
    </div>
  );
}

/** Gentle first. */
const accelerationsOf = ({ rows }: AdvanceMap): number[] =>
  [...new Set(rows.map(({ acceleration }) => acceleration))].sort((a, b) => a - b);

/** Colour of one of several accelerations; the ends of the scale are too near to paper and ink. */
const colourAt = (i: number, of: number): string =>
  css(scaleColour(of > 1 ? 0.15 + (0.7 * i) / (of - 1) : 0.5));

function optionOf(map: AdvanceMap, single: number | null, ink: string): echarts.EChartsCoreOption {
  const { rows } = map;
  const accelerations = accelerationsOf(map);
  const flows = rows.map(({ flow }) => flow);
  const text = { color: ink, fontSize: 13, fontFamily: 'inherit' };
  return {
    animation: false,
    textStyle: { fontFamily: 'inherit' },
    grid: { left: 52, right: 16, top: 28, bottom: 44 },
    tooltip: {
      trigger: 'item',
      formatter: ({ data, seriesName }: { data: [number, number]; seriesName: string }) =>
        `${seriesName}, ${short(data[0])} mm³/s: ${short(data[1], 4)} s`,
    },
    xAxis: {
      type: 'value',
      name: 'melt flow, mm³/s',
      nameLocation: 'middle',
      nameGap: 28,
      nameTextStyle: text,
      min: Math.floor(Math.min(...flows) - 0.5),
      max: Math.ceil(Math.max(...flows) + 0.5),
      axisLabel: text,
      splitLine: { show: false },
    },
    yAxis: {
      type: 'value',
      name: 's',
      nameTextStyle: text,
      scale: true,
      axisLabel: text,
      splitLine: { lineStyle: { color: ink, opacity: 0.15 } },
    },
    series: [
      ...accelerations.flatMap((acceleration, i) => {
        const of = rows.filter((row) => row.acceleration === acceleration);
        const name = `${short(acceleration)} mm/s²`;
        const itemStyle = { color: colourAt(i, accelerations.length) };
        return [
          // A rim of ink under each: no ground suits all colours of the scale.
          ...[{ width: 5, color: ink }, { width: 3 }].map((lineStyle, k) => ({
            type: 'line',
            name,
            silent: k === 0,
            symbol: 'none',
            lineStyle,
            itemStyle,
            data: of.map(({ flow, advance }) => [flow, advance]),
          })),
          {
            type: 'scatter',
            name,
            symbolSize: 11,
            itemStyle: { ...itemStyle, borderColor: ink, borderWidth: 1 },
            // Beside each other where they would hide each other.
            data: of.flatMap(({ flow, read }) =>
              read === null ? [] : [[flow + BESIDE * (i - (accelerations.length - 1) / 2), read]],
            ),
          },
        ];
      }),
      ...(single === null
        ? []
        : [
            {
              type: 'line',
              name: 'one value for all',
              symbol: 'none',
              silent: true,
              lineStyle: { width: 1.5, type: 'dashed', color: ink },
              itemStyle: { color: ink },
              data: [
                [Math.min(...flows), single],
                [Math.max(...flows), single],
              ],
            },
          ]),
    ],
  };
}
