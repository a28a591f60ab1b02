// A print as it is drawn or simulated. A plain image: it is made once and kept by the browser.
import { Picture } from './Picture';

export const PrintPicture = ({ src, className }: { src: string; className?: string }) => (
  <Picture src={src} alt="The ladder from the front, to scale" className={className ?? ''} />
);
