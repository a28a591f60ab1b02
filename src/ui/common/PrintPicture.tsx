// A print as it is drawn or simulated. A plain image: it is made once and kept by the browser.
export function PrintPicture({ src, className }: { src: string; className?: string }) {
  return (
    // eslint-disable-next-line @next/next/no-img-element -- already at its size, and never from elsewhere
    <img
      src={src}
      alt="The ladder from the front, to scale"
      className={className}
      draggable={false}
    />
  );
}
