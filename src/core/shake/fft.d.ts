/** What is used of the package `fft.js`, which has no types of its own. */
declare module 'fft.js' {
  export default class FFT {
    /** @param size a power of two */
    constructor(size: number);
    /** Room for a complex result: real and imaginary parts in turn. */
    createComplexArray(): number[];
    /** The first half of the transform of real numbers. */
    realTransform(out: number[], data: ArrayLike<number>): void;
  }
}
