// A QR code for a phone's camera: dark on light in either theme, with the quiet edge that cameras need.
import { encode } from 'uqr';

/** Modules around the code that stay light. */
const EDGE = 4;

export function Qr({ text, label }: { text: string; label: string }) {
  const { data, size } = encode(text, { ecc: 'M', border: 0 });
  const path = data
    .flatMap((row, y) => row.flatMap((dark, x) => (dark ? `M${x} ${y}h1v1h-1z` : [])))
    .join('');
  return (
    <svg
      viewBox={`${-EDGE} ${-EDGE} ${size + 2 * EDGE} ${size + 2 * EDGE}`}
      role="img"
      aria-label={label}
      className="h-full w-full rounded"
      shapeRendering="crispEdges"
    >
      <rect x={-EDGE} y={-EDGE} width={size + 2 * EDGE} height={size + 2 * EDGE} fill="#ffffff" />
      <path d={path} fill="#16181c" />
    </svg>
  );
}
