/** Two themes: paper by day, a dim workshop by night. Kept in a cookie, so no page flashes. */

export const THEMES = ['ash', 'workshop'] as const;
export type Theme = (typeof THEMES)[number];
export const THEME_COOKIE = 'theme';

export const themeFrom = (value: string | undefined): Theme =>
  value === 'workshop' ? 'workshop' : 'ash';
