import Link from 'next/link';
import { Header } from '@/ui/common/Header';

export default function NotFound() {
  return (
    <>
      <Header title="Ash Ladder" titleHref="/" ways={[{ href: '/', label: 'Bench' }]} />
      <main className="mx-auto max-w-2xl px-4 py-14">
        <h1>Page not found</h1>
        <p className="mt-4 text-lg">
          The bench, ladder or file does not exist, or the link is old.
        </p>
        <Link href="/" className="btn-main mt-6">
          To the bench
        </Link>
      </main>
    </>
  );
}
