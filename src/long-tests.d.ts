/** Like `test`, for what takes seconds and changes seldom: it runs in `npm run test:long` alone. */
declare const long: typeof test;
