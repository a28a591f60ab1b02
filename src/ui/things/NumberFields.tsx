'use client';
// Numbers of a machine or a filament, each by its path; what it is called is the same here as in messages.
import { thingLabels } from '@/core/bench/labels';
import { NumberField } from './fields';

/** A path in a description, its unit, and how many of that unit are one of its own: 100 for a share shown in %. */
export type NumberRow = [path: string, unit: string, times?: number];

type Props<T extends object> = {
  of: T;
  rows: readonly NumberRow[];
  onChange: (next: T) => void;
};

export function NumberFields<T extends object>({ of, rows, onChange }: Props<T>) {
  return rows.map(([path, unit, times = 1]) => (
    <NumberField
      key={path}
      label={thingLabels(path) ?? path}
      unit={unit}
      value={times === 1 ? numberAt(of, path) : Math.round(numberAt(of, path) * times)}
      onChange={(value) => onChange(withNumber(of, path.split('.'), value / times))}
    />
  ));
}

type Tree = { [key: string]: Tree | number };

/** The number at a path; 0 where it was never set. */
export function numberAt(of: object, path: string): number {
  const found = path
    .split('.')
    .reduce<Tree | number | undefined>(
      (at, key) => (typeof at === 'object' ? at[key] : undefined),
      of as Tree,
    );
  return typeof found === 'number' ? found : 0;
}

/** The same thing with another number at a path; what the path does not touch is the same object. */
export function withNumber<T extends object>(of: T, [key, ...rest]: string[], value: number): T {
  const below = (of as Tree)[key!];
  const next = rest.length === 0 ? value : withNumber((below ?? {}) as Tree, rest, value);
  return { ...of, [key!]: next };
}
