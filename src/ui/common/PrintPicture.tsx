// The drawing of a kept file. A plain image: it is made once by the server and kept by the browser.
export function PrintPicture({ fileId, className }: { fileId: number; className?: string }) {
  return (
    // eslint-disable-next-line @next/next/no-img-element -- already at its size, and never from elsewhere
    <img
      src={`/files/${fileId}/picture`}
      alt="The ladder from the front, to scale"
      className={className}
      draggable={false}
    />
  );
}
