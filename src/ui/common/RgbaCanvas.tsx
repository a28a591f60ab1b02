'use client';
// A picture of bytes on a canvas, drawn anew when the bytes change.
import { useEffect, useRef } from 'react';
import type { Picture } from '@/core/view/ladder-picture';

export function RgbaCanvas({ picture, label }: { picture: Picture; label: string }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!context) return;
    context.canvas.width = picture.width;
    context.canvas.height = picture.height;
    context.putImageData(new ImageData(picture.rgba, picture.width, picture.height), 0, 0);
  }, [picture]);
  return <canvas ref={canvas} role="img" aria-label={label} />;
}
