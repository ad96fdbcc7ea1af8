import pino from "pino";
import { config } from "@/config/config";
import { requestScope } from "./requestScope";

/** Structured logs, one JSON object a line, on standard output; what is logged while a request is answered carries its id. */
export const log = pino({
	level: config().LOG_LEVEL ?? (config().VITEST ? "silent" : "info"),
	base: null,
	timestamp: pino.stdTimeFunctions.isoTime,
	mixin: () => {
		const scope = requestScope();
		return scope ? { request: scope.id } : {};
	},
});
