'use client';
// How warm the nozzle was in the course of a print, against what it was told.
import { LineChart } from 'echarts/charts';
import { GridComponent, TooltipComponent } from 'echarts/components';
import * as echarts from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import { useEffect, useRef } from 'react';
import type { HeatRow } from '@/core/link-state';

echarts.use([LineChart, GridComponent, TooltipComponent, SVGRenderer]);

/** Room above and below the lines, °C. */
const AROUND = 10;
/** Under this, s, minutes say too little. */
const BRIEF_S = 180;

export function HeatCurve({ rows }: { rows: readonly HeatRow[] }) {
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!box.current || rows.length < 2) return;
    const chart = echarts.init(box.current, null, { renderer: 'svg' });
    const style = getComputedStyle(document.documentElement);
    chart.setOption(optionOf(rows, (name) => style.getPropertyValue(name).trim()));
    const observer = new ResizeObserver(() => chart.resize());
    observer.observe(box.current);
    return () => {
      observer.disconnect();
      chart.dispose();
    };
  }, [rows]);
  if (rows.length < 2) return null;
  const last = rows.at(-1)!;
  return (
    <figure className="rule-above">
      <figcaption className="soft">Nozzle, °C: measured (solid), target (dashed)</figcaption>
      <div
        ref={box}
        className="h-44 w-full"
        role="img"
        aria-label={`The nozzle is at ${Math.round(last[1])} °C, target ${Math.round(last[2])}`}
      />
    </figure>
  );
}

function optionOf(
  rows: readonly HeatRow[],
  colour: (name: string) => string,
): echarts.EChartsCoreOption {
  const brief = rows.at(-1)![0] < BRIEF_S;
  const time = (at: number) => (brief ? `${Math.round(at)} s` : `${Math.round(at / 6) / 10} min`);
  const told = rows.filter(([, , target]) => target > 0).map(([, , target]) => target);
  const text = { color: colour('--color-neutral'), fontSize: 13 };
  return {
    animation: false,
    grid: { left: 40, right: 8, top: 12, bottom: 24 },
    tooltip: {
      trigger: 'axis',
      formatter: ([first]: { dataIndex: number }[]) => {
        const row = rows[first!.dataIndex]!;
        return `${time(row[0])}: ${row[1].toFixed(1)} °C, target ${row[2].toFixed(0)}`;
      },
    },
    xAxis: {
      type: 'value',
      max: 'dataMax',
      // The last one would stand upon the one before it.
      axisLabel: { ...text, formatter: time, showMaxLabel: false },
      splitLine: { show: false },
      splitNumber: 4,
    },
    yAxis: {
      type: 'value',
      // What happens at the temperatures that are printed at is looked at, not the way there.
      min: told.length > 0 ? Math.floor(Math.min(...told) - AROUND) : 0,
      max: told.length > 0 ? Math.ceil(Math.max(...told) + AROUND) : 100,
      axisLabel: text,
      splitLine: { lineStyle: { color: colour('--color-base-300') } },
      splitNumber: 4,
    },
    series: [
      {
        type: 'line',
        step: 'start',
        showSymbol: false,
        silent: true,
        lineStyle: { color: colour('--color-neutral'), width: 1.5, type: 'dashed' },
        data: rows.map(([at, , target]) => [at, target]),
      },
      {
        type: 'line',
        showSymbol: false,
        lineStyle: { color: colour('--color-primary'), width: 2.4 },
        data: rows.map(([at, nozzle]) => [at, nozzle]),
      },
    ],
  };
}
