'use client';
// The curve of a print's heat, loaded only where one is shown: charts weigh more than all else on a page.
import { later } from '../common/later';

export const HeatCurveLater = later('The curve of the heat', () =>
  import('./HeatCurve').then((one) => one.HeatCurve),
);
