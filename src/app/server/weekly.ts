import { z } from "zod";
import { badRowsOf, previewWeekly, takeWeekly, weeklyPlanSchema } from "@/features/import/server/weekly/take";
import { Fault } from "@/platform/fault";
import { callerOf, faultResponse } from "@/platform/http/api";
import { readBody } from "@/platform/http/body";
import { demand } from "@/platform/rights";

const formSchema = z.object({
	file: z.instanceof(File, { error: "Choose a file first." }),
	day: z.iso.date().nullable(),
	plan: weeklyPlanSchema.nullable(),
	take: z.boolean(),
	bad: z.boolean(),
	confirmed: z.array(z.string()),
});

/** A weekly export as a form: looked at, with `bad` its rows that can't be read as CSV, or with `take` imported. 422 says what is wrong with it, 409 what has to be confirmed. */
export async function weeklyFileAnswer(request: Request): Promise<Response> {
	try {
		const context = await callerOf(request);
		demand(context.actor, "importBundle");
		const form = await formOf(request);
		const text = (name: string) => {
			const value = form.get(name);
			return typeof value === "string" && value ? value : null;
		};
		const plan = text("plan");
		const input = formSchema.parse({
			file: form.get("file"),
			day: text("day"),
			plan: plan && parsed(plan),
			take: text("take") === "yes",
			bad: text("bad") === "yes",
			confirmed: form.getAll("confirmed").filter((key) => typeof key === "string"),
		});
		const sent = { name: input.file.name, bytes: new Uint8Array(await input.file.arrayBuffer()), day: input.day, plan: input.plan };
		if (input.bad) {
			const name = sent.name.replace(/\.\w+$/, "").replace(/[^\w .-]+/g, "_");
			return new Response((await badRowsOf(context, sent)) as Uint8Array<ArrayBuffer>, {
				headers: { "content-type": "text/csv; charset=utf-8", "content-disposition": `attachment; filename="${name} rows to correct.csv"` },
			});
		}
		return Response.json(input.take ? await takeWeekly(context, { sent, confirmed: input.confirmed }) : await previewWeekly(context, sent));
	} catch (error) {
		return faultResponse(error);
	}
}

async function formOf(request: Request): Promise<FormData> {
	const bytes = await readBody(request, "A weekly file has one row per deal: export only the open deals and the columns you need.");
	try {
		return await new Response(bytes, { headers: { "content-type": request.headers.get("content-type") ?? "" } }).formData();
	} catch {
		throw new Fault(400, "Bad request", "Send the file as a form with the fields file, day, plan, take and confirmed.");
	}
}

function parsed(plan: string): unknown {
	try {
		return JSON.parse(plan);
	} catch {
		throw new Fault(400, "Bad request", "The plan isn’t JSON.");
	}
}
