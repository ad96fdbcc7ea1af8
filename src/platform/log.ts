import pino from "pino";
import { config } from "@/config/config";

/** Structured logs, one JSON object a line, on standard output. */
export const log = pino({ level: config().LOG_LEVEL ?? (config().VITEST ? "silent" : "info"), base: null, timestamp: pino.stdTimeFunctions.isoTime });
