/** `npm run strings`: every sentence that people are shown, by file, so that it can be read aloud in one sitting. */

import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import ts from 'typescript';

const FOLDERS = process.argv.slice(2);
const ALL = ['src/ui', 'src/app', 'src/core', 'src/cli', 'src/link'];
/** Something that is read as words: two of them at least, not an address, a class list or a statement. */
const isSaid = (text) =>
  /[A-Za-z]{2,} [A-Za-z’']{2,}/.test(text) &&
  text !== 'use client' &&
  text !== 'use server' &&
  !/(^| )(btn|flex|grid|min|max|lg|bg|text|stroke|fill)[-:]/.test(text) &&
  !/^(select|insert|update|delete|with|create) /i.test(text);
const AROUND = new Set(['className', 'viewBox', 'd', 'transform', 'points']);

/** Template and JSX with what is filled in shown as …. */
function textOf(node) {
  if (ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node)) return node.text;
  if (ts.isTemplateExpression(node))
    return node.head.text + node.templateSpans.map(({ literal }) => `…${literal.text}`).join('');
  return null;
}
const jsxText = (node) =>
  node.children
    .map((child) =>
      ts.isJsxText(child)
        ? child.text.replace(/\s+/g, ' ')
        : ts.isJsxExpression(child)
          ? (child.expression && textOf(child.expression)) || '…'
          : '…',
    )
    .join('')
    .replace(/(… ?)+/g, '… ')
    .trim();

function sayAll(path) {
  const source = ts.createSourceFile(
    path,
    readFileSync(path, 'utf8'),
    ts.ScriptTarget.Latest,
    true,
  );
  const said = new Set();
  const walk = (node) => {
    if (ts.isImportDeclaration(node)) return;
    if (ts.isJsxAttribute(node) && AROUND.has(node.name.getText())) return;
    const text = ts.isJsxElement(node) ? jsxText(node) : textOf(node);
    if (text !== null && isSaid(text)) said.add(text.replace(/\s+/g, ' ').trim());
    ts.forEachChild(node, walk);
  };
  walk(source);
  if (said.size === 0) return;
  console.log(`\n${path}`);
  for (const one of said) console.log(`  ${one}`);
}

for (const folder of FOLDERS.length > 0 ? FOLDERS : ALL)
  for (const name of readdirSync(folder, { recursive: true }).sort())
    if (/\.tsx?$/.test(name) && !/\.(test|long)\./.test(name) && !name.includes('testing'))
      sayAll(join(folder, name));
