/** Layers along the height axis beside a print: where each stands, and which is meant by a place on it. */

/**
 * Places of layers on the axis, 0 at its lower end to 1: by height where each layer is higher than the one before,
 * else by their order, as in files that print one thing after the other.
 */
export function layerPlaces(z: ArrayLike<number>): Float64Array {
  const places = new Float64Array(z.length);
  let climbs = true;
  for (let i = 1; i < z.length; i++) if (!(z[i]! > z[i - 1]!)) climbs = false;
  const top = z[z.length - 1] ?? 0;
  for (let i = 0; i < z.length; i++)
    places[i] = climbs && top > 0 ? z[i]! / top : (i + 1) / z.length;
  return places;
}

/** The layer nearest to a place. @param places ascending @returns -1 where there is none */
export function layerAt(places: Float64Array, place: number): number {
  let [low, high] = [0, places.length - 1];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (places[middle]! < place) low = middle + 1;
    else high = middle;
  }
  const before = places[low - 1];
  return before !== undefined && place - before < places[low]! - place ? low - 1 : high;
}
