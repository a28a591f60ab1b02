/** What a photo costs: 12 megapixels straightened and measured, beside decoding them. */

import { lookAt } from '../src/core/loupe/loupe';
import { takePicture } from '../src/core/loupe/testing/camera';
import { layers } from '../src/core/loupe/testing/scenes';
import { benchFor, makeOn } from '../src/core/testing';
import { jpegOf, pixelsOf } from '../src/photo/decode';
import { row, timed } from './measure';

const [WIDTH, HEIGHT, BUDGET_MS] = [4000, 3000, 1000];

export async function loupe(): Promise<void> {
  for (const kind of ['temperature', 'acceleration']) {
    const { plan } = makeOn(benchFor('heron'), kind);
    const box = { minX: 0, minY: 0, maxX: plan.width, maxY: plan.height };
    const bands = plan.rungs.map(({ z }) => ({ ...z, pitch: plan.layerHeight }));
    const scene = layers(box, bands, { pxPerMm: 40 });
    const { photo, corners } = takePicture(scene, { width: WIDTH, height: HEIGHT });
    const looking = timed(() => lookAt(photo, plan, { corners }), 7);
    row(
      `a photo of ${Math.round((WIDTH * HEIGHT) / 1e6)} MP, ${kind}, straightened and measured`,
      `${looking.toFixed(0)} ms (budget ${BUDGET_MS})`,
      looking < BUDGET_MS,
    );
    const jpeg = await jpegOf(photo, 92);
    const before = performance.now();
    await pixelsOf(jpeg);
    row('  decoding the same from JPEG', `${(performance.now() - before).toFixed(0)} ms`);
  }
}
