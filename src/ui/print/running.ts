/**
 * A print on the understudy runs in the page that began it; others follow it by one number: how far it is, in
 * thousandths, or one of these.
 */
export const WHOLE = 1000;
export const FINISHED = -1;
export const STOPPED = -2;

export const runTopic = (fileId: number): string => `/files/${fileId}/run`;
