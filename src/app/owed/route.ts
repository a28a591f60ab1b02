import { store } from '../server/store';

export const dynamic = 'force-dynamic';

/** Machines that may be hot after something ended; followed under this same address. */
export const GET = () =>
  Response.json(store().wires.owed(), { headers: { 'cache-control': 'no-store' } });
