// The line at the top: what this is, on which bench, and the ways on.
import Link from 'next/link';
import type { ReactNode } from 'react';
import { NotYet } from './NotYet';
import { ThemeButton } from './ThemeButton';

/** `first` says what has to come before a way that is not open yet. */
export type Way = { href: string; label: string; here?: boolean; first?: string | null };

type Props = { title: string; titleHref?: string; sub?: ReactNode; ways: readonly Way[] };

export function Header({ title, titleHref, sub, ways }: Props) {
  return (
    <header className="border-base-300 no-print mx-4 flex flex-wrap items-center gap-x-5 gap-y-0 border-b pt-2 lg:mx-7 lg:h-16 lg:flex-nowrap lg:pt-0">
      <p className="text-lg font-semibold whitespace-nowrap max-lg:flex-1">
        {titleHref ? <Link href={titleHref}>{title}</Link> : title}
      </p>
      <div className="text-neutral min-w-0 flex-1 leading-tight [overflow-wrap:anywhere] max-lg:order-last max-lg:basis-full max-lg:text-sm">
        <bdi>{sub}</bdi>
      </div>
      <nav
        className="flex items-stretch gap-1 self-stretch max-sm:order-last max-sm:w-full max-[379px]:flex-wrap"
        aria-label="Main"
      >
        {ways.map(({ href, label, here, first = null }) =>
          first === null ? (
            <Link
              key={href}
              href={href}
              aria-current={here ? 'page' : undefined}
              className={`flex min-h-11 items-center border-b-[3px] px-3 max-sm:flex-1 max-sm:justify-center max-sm:px-1.5 max-sm:text-[15px] whitespace-nowrap ${
                here ? 'border-primary' : 'text-neutral hover:text-base-content border-transparent'
              }`}
            >
              {label}
            </Link>
          ) : (
            <NotYet key={href} label={label} first={first} />
          ),
        )}
      </nav>
      <ThemeButton />
    </header>
  );
}
