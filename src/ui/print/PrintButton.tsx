'use client';
import Link from 'next/link';

export function PrintButton({ back }: { back: string }) {
  return (
    <div className="flex gap-2">
      <button type="button" className="btn-main" onClick={() => window.print()}>
        Print this sheet
      </button>
      <Link className="btn-quiet" href={back}>
        Back
      </Link>
    </div>
  );
}
