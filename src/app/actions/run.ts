"use server";
import { z } from "zod";
import { OPERATIONS } from "@/features/registry";
import { databaseFault } from "@/platform/databaseFault";
import { Fault } from "@/platform/fault";
import { currentContext } from "@/platform/http/session";
import { assertStorable } from "@/platform/input";
import { log } from "@/platform/log";
import type { Outcome } from "@/ui/run";

/** The one server action: has a command or a lookup carried out for whoever is signed in. Faults come back in words, all else is logged and said plainly. */
export async function runAction(name: string, input: unknown, once?: string): Promise<Outcome<unknown>> {
	try {
		const context = await currentContext();
		if (!context) return { ok: false, title: "Not signed in", detail: "Your session has ended. Sign in again; nothing was changed." };
		const doing = OPERATIONS.get(String(name));
		if (!doing) throw new Fault(404, "Not found", "This page belongs to an older version of the program. Reload it; nothing was changed.");
		assertStorable(input);
		const given = typeof once === "string" && once.length <= 100 ? { ...context, once } : context;
		return { ok: true, result: await doing(given, input as never) };
	} catch (thrown) {
		const error = databaseFault(thrown);
		if (error instanceof Fault) return { ok: false, title: error.title, detail: error.detail, status: error.status, more: error.more };
		if (error instanceof z.ZodError) return { ok: false, title: "Please check", detail: error.issues.map((issue) => issue.message).join(" ") };
		log.error({ error: String(error), stack: error instanceof Error ? error.stack : undefined, name }, "action failed");
		return { ok: false, title: "Not saved", detail: "Something went wrong on the server; nothing was changed. Try again." };
	}
}
