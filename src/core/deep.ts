/** A part of something, however deep. */
export type Deep<T> = T extends object ? { [K in keyof T]?: Deep<T[K]> } : T;
