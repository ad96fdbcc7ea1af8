import pino from "pino";

/** Structured logs, one JSON object a line, on standard output. */
export const log = pino({ level: process.env.LOG_LEVEL ?? (process.env.VITEST ? "silent" : "info"), base: null, timestamp: pino.stdTimeFunctions.isoTime });
