'use client';
// The curve of a print's heat, loaded only where one is shown: charts weigh more than all else on a page.
import dynamic from 'next/dynamic';

export const HeatCurveLater = dynamic(() => import('./HeatCurve').then((one) => one.HeatCurve), {
  ssr: false,
});
