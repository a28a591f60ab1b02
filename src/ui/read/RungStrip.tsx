// The part of the print's drawing that shows one rung.
import type { PlanRung } from '@/core/ladders/plan-file';

type Props = { fileId: number; rung: PlanRung; height: number };

export function RungStrip({ fileId, rung, height }: Props) {
  const tall = rung.z.to - rung.z.from;
  // A background can be cut without knowing the picture's pixels: the rung's band fills the box's height.
  const size = (height / tall) * 100;
  const at = height === tall ? 0 : ((height - rung.z.to) / (height - tall)) * 100;
  return (
    <div
      role="img"
      aria-label={`Rung ${rung.index + 1} from the front`}
      className="bg-base-200 h-full rounded bg-no-repeat"
      style={{
        backgroundImage: `url(/files/${fileId}/picture)`,
        backgroundSize: `auto ${size}%`,
        backgroundPosition: `50% ${at}%`,
      }}
    />
  );
}
