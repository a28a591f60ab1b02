/** `npm run demo`: the demo's data, in ASH_DATA or ./demo-data. */

process.env.ASH_DATA ??= 'demo-data';
process.argv.push('--demo');
await import('./start.mjs');
