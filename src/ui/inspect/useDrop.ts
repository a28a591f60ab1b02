'use client';
/** Files dropped anywhere on the page; without this the browser would leave the page to show what was dropped. */

import { useEffect, useRef, useState } from 'react';
import { listen } from '../common/listen';

/** @returns whether a file is held over the page */
export function useDrop(onFile: (file: File) => void): boolean {
  const [over, setOver] = useState(false);
  const take = useRef(onFile);
  useEffect(() => {
    take.current = onFile;
  });
  useEffect(() => {
    const onOver = (event: DragEvent) => {
      event.preventDefault();
      setOver(true);
    };
    const onLeave = (event: DragEvent) => event.relatedTarget === null && setOver(false);
    const onDrop = (event: DragEvent) => {
      event.preventDefault();
      setOver(false);
      const file = event.dataTransfer?.files[0];
      if (file) take.current(file);
    };
    return listen({ dragover: onOver, dragleave: onLeave, drop: onDrop });
  }, []);
  return over;
}
