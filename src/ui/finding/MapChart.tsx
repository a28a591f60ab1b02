'use client';
// Pressure advance over melt flow, a line for each acceleration, and what was read of each cell.
import { LineChart, ScatterChart } from 'echarts/charts';
import { GridComponent, LegendComponent, TooltipComponent } from 'echarts/components';
import * as echarts from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import { useEffect, useRef } from 'react';
import { short } from '@/core/numbers';
import type { AdvanceMap } from '@/core/reading/find-map';
import { css, scaleColour } from '@/core/view/scale';

echarts.use([
  LineChart,
  ScatterChart,
  GridComponent,
  LegendComponent,
  TooltipComponent,
  SVGRenderer,
]);

/** Dots of one flow stand this far apart, mm³/s. */
const BESIDE = 0.12;

type Props = { map: AdvanceMap; single: number | null };

export function MapChart({ map, single }: Props) {
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!box.current) return;
    const chart = echarts.init(box.current, null, { renderer: 'svg' });
    const style = getComputedStyle(document.documentElement);
    chart.setOption(optionOf(map, single, (name) => style.getPropertyValue(name).trim()));
    const observer = new ResizeObserver(() => chart.resize());
    observer.observe(box.current);
    return () => {
      observer.disconnect();
      chart.dispose();
    };
  }, [map, single]);
  const values = map.rows.map(({ advance }) => advance);
  return (
    <div
      ref={box}
      className="h-80 w-full lg:h-[26rem]"
      role="img"
      aria-label={`Pressure advance from ${short(Math.max(...values))} to ${short(Math.min(...values))} s over melt flow, a line for each acceleration`}
    />
  );
}

function optionOf(
  { rows }: AdvanceMap,
  single: number | null,
  colour: (name: string) => string,
): echarts.EChartsCoreOption {
  const ink = colour('--color-base-content');
  const faint = colour('--color-base-300');
  const accelerations = [...new Set(rows.map(({ acceleration }) => acceleration))].sort(
    (a, b) => a - b,
  );
  const flows = rows.map(({ flow }) => flow);
  const share = (i: number) =>
    accelerations.length > 1 ? 0.15 + (0.7 * i) / (accelerations.length - 1) : 0.5;
  const text = { color: ink, fontSize: 13, fontFamily: 'inherit' };
  return {
    animation: false,
    textStyle: { fontFamily: 'inherit' },
    grid: { left: 52, right: 16, top: 36, bottom: 44 },
    legend: { top: 0, left: 40, textStyle: text, icon: 'roundRect', itemHeight: 4, itemGap: 36 },
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
      splitLine: { lineStyle: { color: faint } },
    },
    series: [
      ...accelerations.flatMap((acceleration, i) => {
        const of = rows.filter((row) => row.acceleration === acceleration);
        const name = `${short(acceleration)} mm/s²`;
        const itemStyle = { color: css(scaleColour(share(i))) };
        return [
          {
            type: 'line',
            name,
            symbol: 'none',
            lineStyle: { width: 3 },
            itemStyle,
            data: of.map(({ flow, advance }) => [flow, advance]),
          },
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
