/** What the fields of a machine and a filament are called where people see them. */

import type { Labels } from '../result';

const LABELS: Record<string, string> = {
  name: 'Name',
  'bed.width': 'Bed width',
  'bed.depth': 'Bed depth',
  'bed.diameter': 'Bed diameter',
  height: 'Print height',
  'extruder.hottest': 'Highest nozzle temperature',
  bedHottest: 'Highest bed temperature',
  'retraction.distance': 'Retraction',
  'retraction.speed': 'Retraction speed',
  'retraction.lift': 'Lift (z-hop)',
  advance: 'Pressure advance now',
  'speeds.print': 'Print speed',
  'speeds.firstLayer': 'First layer speed',
  'speeds.travel': 'Travel speed',
  'speeds.bridge': 'Bridge speed',
  'limits.printAcceleration': 'Print acceleration',
  'limits.travelAcceleration': 'Travel acceleration',
  'limits.cornering.deviation': 'Junction deviation',
  'limits.cornering.speed': 'Square-corner speed',
  startBlock: 'Start block',
  endBlock: 'End block',
  macros: 'Commands of its own',
  material: 'Material',
  diameter: 'Diameter',
  density: 'Density',
  nozzle: 'Label temperatures',
  'nozzle.min': 'Coolest on its label',
  'nozzle.max': 'Hottest on its label',
  bed: 'Bed',
  'fan.print': 'Fan on walls',
  'fan.bridge': 'Fan on bridges',
  shortestLayer: 'Shortest layer',
};

export const thingLabels: Labels = (path) => {
  const known = LABELS[path];
  if (known) return known;
  const [, which, axis] = /^limits\.(speed|acceleration)\.([xyze])$/.exec(path) ?? [];
  if (which) return `Highest ${which}, ${axis}`;
  const [, jerk] = /^limits\.cornering\.([xyze])$/.exec(path) ?? [];
  if (jerk) return `Jerk, ${jerk}`;
  if (path.startsWith('dialect.')) return `Command for ${path.slice('dialect.'.length)}`;
  if (path.startsWith('macros.')) return 'Commands of its own';
  return undefined;
};
