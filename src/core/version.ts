/** Version of the program as files name it; equal to package.json's (version.test.ts). */
export const VERSION = '0.1.0';
