/// <reference lib="webworker" />
/** Thin shell: makes ladders off the page's thread, so that typing never waits. */

import * as Comlink from 'comlink';
import { costsOf } from '../core/ladders/costs';
import { Designer } from '../core/view/designer';
import { draftView } from '../core/view/draft';

const designer = new Designer();

const api = {
  design: (...args: Parameters<Designer['design']>) => {
    const view = designer.design(...args);
    return view.ok ? Comlink.transfer(view, [view.picture.rgba.buffer]) : view;
  },
  draft: (...args: Parameters<typeof draftView>) => {
    const view = draftView(...args);
    return view?.ok ? Comlink.transfer(view, [view.picture.rgba.buffer]) : view;
  },
  layer: (index: number) => designer.layer(index),
  costs: costsOf,
};
export type DesignWorker = typeof api;

Comlink.expose(api);
