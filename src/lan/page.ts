/** The one page that anybody on the network may see: where a code is entered. It names nothing of what is inside. */

import { createHash } from 'node:crypto';

const STYLE = `
:root{color-scheme:light dark;--ground:#f4f1ea;--paper:#fbfaf6;--ink:#22262c;--line:#cdbf9f;--plum:#6b2a5b;--on:#fbfaf6}
@media(prefers-color-scheme:dark){:root{--ground:#1d1f22;--paper:#25282c;--ink:#ece7dc;--line:#6d634c;--plum:#d79fc6;--on:#2a1023}}
*{box-sizing:border-box}
body{margin:0;background:var(--ground);color:var(--ink);font:17px/1.5 system-ui,sans-serif}
main{max-width:26rem;margin:0 auto;padding:2rem 1.25rem}
h1{font-size:1.75rem;line-height:1.2;text-wrap:balance;margin:0 0 .75rem}
label{display:block;margin-top:1rem}
input{display:block;width:100%;height:3rem;margin-top:.25rem;padding:0 .75rem;font:inherit;color:inherit;background:var(--paper);border:1px solid var(--line);border-radius:.3rem}
#code{height:4rem;font-size:2rem;font-weight:600;letter-spacing:.3em}
button{width:100%;height:3.5rem;margin-top:1.5rem;font:inherit;font-weight:600;color:var(--on);background:var(--plum);border:0;border-radius:.3rem}
:focus-visible{outline:3px solid var(--plum);outline-offset:2px}
p{margin:.5rem 0}
a{color:inherit}
`;

const hash = createHash('sha256').update(STYLE).digest('base64');

/** Nothing but its own style, and a form that goes nowhere else. */
export const PAGE_POLICY = `default-src 'none'; style-src 'sha256-${hash}'; form-action 'self'; frame-ancestors 'none'; base-uri 'none'`;

export const NAME_LENGTH = 40;

const GET_A_CODE =
  '<p>On the computer, open <b>Phones</b> and press <b>Show a code</b>. A code lasts two minutes and works once.</p>';
/** A link of one's own page: a browser that was sent here by another app has kept the cookie back, and sends it now. */
const PUT_OUT = `<p>Was it let in before? <a href="">Try again</a>. If this page comes again, it was put out on the computer. Scores and pictures that wait on it are kept, and are sent when it is let in again.</p>`;

/** @param code digits that stand in the field already, and nothing else */
export const pairPage = (code = '', device = ''): string => `<!doctype html>
<html lang="en">
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>Ash Ladder</title>
<style>${STYLE}</style>
<main>
<h1>${code ? 'Let this device in' : 'This device is not let in'}</h1>
${code ? '' : GET_A_CODE}
<form method="post" action="/pair">
<label>Code<input id="code" name="code" inputmode="numeric" autocomplete="one-time-code" maxlength="9" required value="${code}"${code ? '' : ' autofocus'}></label>
<label>Your name, for your scores<input name="reader" maxlength="${NAME_LENGTH}" autocomplete="given-name" required${code ? ' autofocus' : ''}></label>
<label>Name of this device<input name="name" maxlength="${NAME_LENGTH}" required value="${device || 'Phone'}"></label>
<button>Let me in</button>
</form>
${code ? '' : PUT_OUT}
</main>
`;

/** What a device is called until somebody says otherwise; fixed words only, nothing of what was sent. */
export const deviceName = (userAgent: string): string =>
  /Mobi/.test(userAgent) ? 'Phone' : 'Tablet or laptop';
