// The part of the print's picture that shows one rung.
import type { Rung } from '@/core/plan/plan';

type Props = {
  picture: string;
  rung: Rung;
  height: number;
  width: number;
  /** Of a cell: its ends across the picture, mm. */
  across?: { from: number; to: number } | undefined;
  /**
   * Takes the room that there is, as tall as the rung, and of its width what is around this place, as a share from its
   * left; else the rung's own shape.
   */
  spot?: number;
};

export function RungStrip({ picture, rung, height, width, across, spot }: Props) {
  const tall = rung.z.to - rung.z.from;
  const whole = width + 2;
  const wide = across ? across.to - across.from : whole;
  const along = across && whole > wide ? (across.from / (whole - wide)) * 100 : 50;
  // A background can be cut without knowing the picture's pixels: it is as wide as the box, and the rung's
  // band decides where it stands.
  const at = height === tall ? 0 : ((height - rung.z.to) / (height - tall)) * 100;
  return (
    <div
      role="img"
      aria-label={`Rung ${rung.index + 1} from the front`}
      className={`bg-base-200 w-full rounded bg-no-repeat ${spot === undefined ? '' : 'h-full'}`}
      style={{
        backgroundImage: `url(${picture})`,
        ...(spot === undefined
          ? {
              aspectRatio: `${wide} / ${tall}`,
              backgroundSize: `${(100 * whole) / wide}% auto`,
              backgroundPosition: `${along}% ${at}%`,
            }
          : {
              backgroundSize: `auto ${(100 * height) / tall}%`,
              backgroundPosition: `${100 * spot}% ${at}%`,
            }),
      }}
    />
  );
}
