/** What printing a ladder costs. */
export type Price = {
  rungs: number;
  /** Of printing, heating left out. */
  minutes: number;
  grams: number;
};
