'use client';
// A picture that is worked out by the program: until it is there, its place says so, and that it failed where it did.
import { useEffect, useRef, useState, type CSSProperties } from 'react';

/** A picture that is there sooner says nothing, ms. */
const SOON_MS = 300;

type Props = {
  src: string;
  alt: string;
  className?: string;
  style?: CSSProperties;
  /** What its place says while it is waited for. */
  words?: string;
};

export function Picture({ src, alt, className = '', style, words = 'Being drawn …' }: Props) {
  const at = useRef<HTMLImageElement>(null);
  const [state, setState] = useState<'here' | 'waits' | 'failed'>('here');
  const [tries, setTries] = useState(0);
  // Anew for each address: what was here before says nothing of the next.
  useEffect(() => {
    const image = at.current;
    if (!image) return;
    const look = () => {
      if (!image.complete) setState('waits');
      else setState(image.naturalWidth > 0 ? 'here' : 'failed');
    };
    const later = setTimeout(look, SOON_MS);
    image.addEventListener('load', look);
    image.addEventListener('error', look);
    return () => {
      clearTimeout(later);
      image.removeEventListener('load', look);
      image.removeEventListener('error', look);
    };
  }, [src, tries]);
  const again = tries === 0 ? '' : `${src.includes('?') ? '&' : '?'}again=${tries}`;
  return (
    <>
      {/* eslint-disable-next-line @next/next/no-img-element -- already at its size, and never from elsewhere */}
      <img
        ref={at}
        src={src + again}
        alt={alt}
        className={state === 'here' ? className : 'sr-only'}
        style={state === 'here' ? style : undefined}
        draggable={false}
      />
      {state !== 'here' && (
        <span
          role="status"
          className={`soft grid min-h-6 place-items-center text-center text-sm ${className}`}
          style={style}
        >
          {state === 'waits' ? (
            words
          ) : (
            <button
              type="button"
              className="relative z-10 min-h-8 px-2 underline"
              onClick={() => setTries(tries + 1)}
            >
              The picture did not come. Try again
            </button>
          )}
        </span>
      )}
    </>
  );
}
