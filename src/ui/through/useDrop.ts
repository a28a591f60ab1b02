'use client';
/** Files dropped anywhere on the page; without this the browser would leave the page to show what was dropped. */

import { useEffect, useRef, useState } from 'react';

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
    window.addEventListener('dragover', onOver);
    window.addEventListener('dragleave', onLeave);
    window.addEventListener('drop', onDrop);
    return () => {
      window.removeEventListener('dragover', onOver);
      window.removeEventListener('dragleave', onLeave);
      window.removeEventListener('drop', onDrop);
    };
  }, []);
  return over;
}
