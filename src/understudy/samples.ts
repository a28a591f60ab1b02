/** The print as it lies: one row each quarter of a millimetre of every stroke. Columns, since there are many. */

/** Longest piece of a stroke that is one sample, mm. */
export const SAMPLE = 0.25;

export type Samples = {
  count: number;
  /** Middle of the bead where it really lies, mm; z is its top. */
  x: Float32Array;
  y: Float32Array;
  z: Float32Array;
  /** Width and true height of the gap that it fills, mm. */
  width: Float32Array;
  gap: Float32Array;
  /** How far ringing carried the head off its path, mm, to the left of the way. */
  swing: Float32Array;
  /** Plastic laid against plastic asked for, as a ratio. */
  ratio: Float32Array;
  /** Asked width, mm. */
  asked: Float32Array;
  /** Temperature of the melt, °C. */
  heat: Float32Array;
  /** Share of the bead that rests on plastic, 0..1. */
  support: Float32Array;
  /** How far it hangs below where it should be, mm. */
  drop: Float32Array;
  /** Bond to what lies below, and shine, 0..1. */
  bond: Float32Array;
  shine: Float32Array;
  /** Unevenness of the surface, mm. */
  rough: Float32Array;
  /** Way since the last corner and to the next one, mm, and since the last restart. */
  since: Float32Array;
  until: Float32Array;
  begun: Float32Array;
  move: Uint32Array;
  tool: Uint8Array;
};

const FLOATS = [
  'x',
  'y',
  'z',
  'width',
  'gap',
  'swing',
  'ratio',
  'asked',
  'heat',
  'support',
  'drop',
  'bond',
  'shine',
  'rough',
  'since',
  'until',
  'begun',
] as const;

/** Room for `count` samples. */
export function samplesFor(count: number): Samples {
  const floats = Object.fromEntries(FLOATS.map((name) => [name, new Float32Array(count)]));
  return {
    ...(floats as Record<(typeof FLOATS)[number], Float32Array>),
    move: new Uint32Array(count),
    tool: new Uint8Array(count),
    count,
  };
}

/** A travel through the air with the melt that it drew out. */
export type Thread = {
  from: { x: number; y: number };
  to: { x: number; y: number };
  z: number;
  /** Length of the way through air, mm, and thickness of the thread there, mm; 0 when none held. */
  length: number;
  thick: number;
};
