declare module 'heic-decode' {
  type Decoded = { width: number; height: number; data: Uint8ClampedArray };
  type Image = { width: number; height: number; decode: () => Promise<Decoded> };
  const decode: {
    all: (asked: { buffer: Uint8Array }) => Promise<Image[] & { dispose: () => void }>;
  };
  export default decode;
}
