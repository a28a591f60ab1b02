'use client';
// Turns the theme at once and keeps it in a cookie for the next page.
import { MoonStar, Sun } from 'lucide-react';
import { THEME_COOKIE } from './theme';

const YEAR_S = 31_536_000;

function turn() {
  const next = document.documentElement.dataset.theme === 'workshop' ? 'ash' : 'workshop';
  document.documentElement.dataset.theme = next;
  document.cookie = `${THEME_COOKIE}=${next};path=/;max-age=${YEAR_S};samesite=strict`;
}

export function ThemeButton() {
  return (
    <button
      type="button"
      className="btn btn-ghost btn-square"
      aria-label="Light or dim"
      title="Light or dim"
      onClick={turn}
    >
      <MoonStar size={18} aria-hidden className="[[data-theme=workshop]_&]:hidden" />
      <Sun size={18} aria-hidden className="hidden [[data-theme=workshop]_&]:block" />
    </button>
  );
}
