// Of a grid: the best row of each column in one tap, where comparing is quicker than scoring every cell.
import { PrintPicture } from '../common/PrintPicture';
import { CellMap } from './CellMap';
import type { Focus } from './types';

export function BestRows({ cells, rungs, place, best, choose, picture }: Focus) {
  return (
    <>
      <p className="mt-2">
        Compare the cells of a column with each other, and tap the one that looks best
        <span className="max-lg:hidden"> on the drawing</span>. Columns are told apart by scoring
        the chosen cells.
      </p>
      <PrintPicture
        src={picture}
        className="drawing my-2 max-h-72 w-full object-contain lg:hidden"
      />
      <CellMap
        className="lg:hidden"
        cells={cells!}
        current={place.rung}
        title="Best row of each column"
        label={(rung) => `${rungs[rung]!.name}${best.includes(rung) ? ': best of its column' : ''}`}
        pressed={(rung) => best.includes(rung)}
        onChoose={choose}
      >
        {(rung) => (best.includes(rung) ? '★' : '')}
      </CellMap>
    </>
  );
}
