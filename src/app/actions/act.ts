import { z } from "zod";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { currentContext } from "@/platform/http/session";
import { log } from "@/platform/log";
import type { Outcome } from "@/ui/actions";

/** Runs a use case for whoever is signed in; faults come back in words, all else is logged and said plainly. */
export async function act<T extends object>(work: (context: Context) => Promise<T>): Promise<Outcome<T>> {
	try {
		const context = await currentContext();
		if (!context) return { ok: false, title: "Not signed in", detail: "Your session has ended. Sign in again; nothing was changed." };
		return { ok: true, ...(await work(context)) };
	} catch (error) {
		if (error instanceof Fault) return { ok: false, title: error.title, detail: error.detail, status: error.status, more: error.more };
		if (error instanceof z.ZodError) return { ok: false, title: "Please check", detail: error.issues.map((issue) => issue.message).join(" ") };
		log.error({ error: String(error), stack: error instanceof Error ? error.stack : undefined }, "action failed");
		return { ok: false, title: "That didn’t work", detail: "Something went wrong on the server; nothing was changed. Try again." };
	}
}

export const idSchema = z.string().min(1).max(200);
