/** Numbers and times as people say them. */

export function duration(seconds: number): string {
  if (seconds < 90) return `${Math.round(seconds)} s`;
  const minutes = Math.round(seconds / 60);
  if (minutes < 100) return `${minutes} min`;
  return `${Math.floor(minutes / 60)} h ${minutes % 60} min`;
}

/** How many there are. Only counts are grouped: values stand as the machine takes them, 1500 and not 1,500. */
export const counted = (count: number): string => count.toLocaleString('en');

const DAY_MS = 86_400_000;

/** How long ago, in the words of a workshop. */
export function age(iso: string, nowMs: number): string {
  const days = Math.floor((nowMs - Date.parse(iso)) / DAY_MS);
  if (days < 1) return 'today';
  if (days === 1) return 'yesterday';
  if (days < 14) return `${days} days`;
  if (days < 60) return `${Math.round(days / 7)} weeks`;
  return `${Math.round(days / 30)} months`;
}

const MINUTE_MS = 60_000;
const HOUR_MS = 60 * MINUTE_MS;

/** How long ago, to the minute where it is not long ago. */
export function ago(iso: string, nowMs: number): string {
  const since = nowMs - Date.parse(iso);
  if (since < MINUTE_MS) return 'just now';
  if (since < HOUR_MS) return `${Math.floor(since / MINUTE_MS)} min ago`;
  if (since < DAY_MS) return `${Math.floor(since / HOUR_MS)} h ago`;
  const words = age(iso, nowMs);
  return words === 'yesterday' ? words : `${words} ago`;
}

export const withUnit = (value: number, unit: string, decimals = 0): string =>
  `${value.toFixed(decimals)} ${unit}`.trim();
