'use client';
// The result curve on the same axis as the plastic: height runs up, better runs to the right.
import { CustomChart, LineChart, ScatterChart } from 'echarts/charts';
import { GridComponent, TooltipComponent } from 'echarts/components';
import * as echarts from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import { useEffect, useRef } from 'react';
import { valueOn } from '@/core/plan/axes';
import { along } from '@/core/view/along';
import type { Axis, Rung } from '@/core/plan/plan';
import { short } from '@/core/numbers';
import type { Finding } from '@/core/reading/finding';

echarts.use([LineChart, CustomChart, ScatterChart, GridComponent, TooltipComponent, SVGRenderer]);

type Props = { finding: Finding; rungs: readonly Rung[]; axis: Axis; height: number };

export function Curve({ finding, rungs, axis, height }: Props) {
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!box.current) return;
    const chart = echarts.init(box.current, null, { renderer: 'svg' });
    const style = getComputedStyle(document.documentElement);
    const colour = (name: string) => style.getPropertyValue(name).trim();
    chart.setOption(optionOf(finding, rungs, axis, height, colour));
    const observer = new ResizeObserver(() => chart.resize());
    observer.observe(box.current);
    return () => {
      observer.disconnect();
      chart.dispose();
    };
  }, [finding, rungs, axis, height]);
  return (
    <div ref={box} className="h-full w-full" role="img" aria-label={told(finding, axis.unit)} />
  );
}

/** The curve in words, for those who cannot see it. */
function told({ curve, values: [{ range }] }: Finding, unit: string): string {
  const best = curve.reduce((a, b) => (b.mean > a.mean ? b : a));
  return `Looks best near ${short(best.value)} ${unit}${range ? `, most likely between ${short(range[0])} and ${short(range[1])}` : ''}`;
}

function optionOf(
  { curve, observations, values: [{ range, value }] }: Finding,
  rungs: readonly Rung[],
  axis: Axis,
  height: number,
  colour: (name: string) => string,
): echarts.EChartsCoreOption {
  const { unit } = axis;
  const line = along(rungs, axis);
  /** Where values are mixed over the print, the place of the rung that has the value. */
  const rungAt = (value: number): number => {
    const { z } = rungs.reduce((a, b) =>
      Math.abs(valueOn(axis, b)! - value) < Math.abs(valueOn(axis, a)! - value) ? b : a,
    );
    return (z.from + z.to) / 2;
  };
  const at = line ?? rungAt;
  const ink = colour('--color-base-content');
  const plum = colour('--color-primary');
  const band = (fill: string, opacity: number, points: [number, number][]) => ({
    type: 'custom',
    silent: true,
    clip: true,
    data: [0],
    renderItem: (_: unknown, api: { coord: (point: [number, number]) => number[] }) => ({
      type: 'polygon',
      shape: { points: points.map((point) => api.coord(point)) },
      style: { fill, opacity },
    }),
  });
  return {
    animation: false,
    grid: { left: 4, right: 6, top: 0, bottom: 0 },
    tooltip: {
      trigger: 'item',
      formatter: ({ data }: { data: [number, number, number?] }) =>
        `${short(data[2] ?? 0, 1)} ${unit}: ${short(data[0] * 4, 1)} of 4`,
    },
    xAxis: { type: 'value', min: 0, max: 1, show: false },
    yAxis: { type: 'value', min: 0, max: height, show: false },
    series: [
      ...(range && line
        ? [
            band(plum, 0.12, [
              [0, at(range[0])],
              [1, at(range[0])],
              [1, at(range[1])],
              [0, at(range[1])],
            ]),
          ]
        : []),
      ...(line
        ? [
            band(plum, 0.2, [
              ...curve.map((p): [number, number] => [p.low, at(p.value)]),
              ...[...curve].reverse().map((p): [number, number] => [p.high, at(p.value)]),
            ]),
            {
              type: 'line',
              silent: true,
              showSymbol: false,
              lineStyle: { color: ink, width: 2.4 },
              data: curve.map((p) => [p.mean, at(p.value)]),
            },
          ]
        : []),
      {
        type: 'scatter',
        symbolSize: 9,
        itemStyle: { color: colour('--color-base-100'), borderColor: ink, borderWidth: 1.6 },
        data: observations
          .filter(({ loupe }) => !loupe)
          .map((one) => [one.score, at(one.value), one.value]),
      },
      {
        type: 'scatter',
        symbol: 'diamond',
        symbolSize: 9,
        itemStyle: { color: ink },
        data: observations
          .filter(({ loupe }) => loupe)
          .map((one) => [one.score, at(one.value), one.value]),
      },
      ...(value === null
        ? []
        : [
            {
              type: 'line',
              silent: true,
              showSymbol: false,
              lineStyle: { color: plum, width: 2 },
              data: [
                [0, at(value)],
                [1, at(value)],
              ],
            },
          ]),
    ],
  };
}
