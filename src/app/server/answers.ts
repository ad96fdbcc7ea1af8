import { sql } from "drizzle-orm";
import { connection } from "@/data/db";
import { currentOrganisation, keptRevision } from "@/data/organisation/follow";
import { DatabaseAway } from "@/data/reach";
import { packedRiver } from "@/features/changes/server/readRiver";
import { exportTable } from "@/features/deals/server/exportTable";
import { packedDeals } from "@/features/deals/server/packedDeals";
import { statusAsked } from "@/features/deals/server/readDeals";
import { API_ROUTES, FILES } from "@/features/registry";
import { readSheet } from "@/features/sheet/server/readSheet";
import { diskFullLately } from "@/platform/databaseFault";
import { notFound } from "@/platform/fault";
import { callerOf, faultResponse, jsonBody } from "@/platform/http/api";
import { openApi } from "@/platform/http/openapi";
import { packedResponse, viewpointOf } from "@/platform/http/packed";
import { handlerOf } from "@/platform/http/serve";
import { assertStorable } from "@/platform/input";
import { FILE_FORMS, writeTableFile } from "@/platform/tableFile";
import { orKnown } from "@/platform/whileAway";

/** What is answered without a page: plain data, each by an address of its own. */

const api = handlerOf(API_ROUTES);
/** A call of the API; the path is what stands behind `/api/v1/`. */
export const apiAnswer = (request: Request, path: readonly string[]): Promise<Response> => api(request, path.map(decoded));

/** The API's description. */
export const openApiAnswer = (): Response => Response.json(openApi(API_ROUTES));

/** The side sheet's content for the list of deals. */
export async function sheetAnswer(request: Request, id: string): Promise<Response> {
	try {
		const context = await callerOf(request);
		const query = new URL(request.url).searchParams;
		return Response.json(await readSheet(context, decoded(id), query.get("seen") ?? "", query.get("against") ?? ""));
	} catch (error) {
		return faultResponse(error);
	}
}

/** The rows of the table of deals, where they are too many to go along with the page. */
export const dealRowsAnswer = (request: Request): Promise<Response> => {
	return packedResponse(request, (context, viewpoint, query) => packedDeals(context, viewpoint, statusAsked(query.get("status") ?? undefined)));
};

/** The columns of the river, where they are too many to go along with the page. */
export const riverAnswer = (request: Request): Promise<Response> =>
	packedResponse(request, (context, viewpoint, query) => [packedRiver(context, viewpoint, query.get("span") ?? undefined)]);

/** What the table of deals shows, as CSV or XLSX. */
export async function tableAnswer(request: Request): Promise<Response> {
	try {
		const context = await callerOf(request);
		const viewpoint = viewpointOf(context, new URL(request.url).searchParams);
		const { name, type, bytes } = await exportTable(context, viewpoint, await jsonBody(request));
		return new Response(bytes as BodyInit, { headers: { "content-type": type, "content-disposition": `attachment; filename="${name}"` } });
	} catch (error) {
		return faultResponse(error);
	}
}

/** A table of a capability as a file, as the address looks at it. */
export async function fileAnswer(request: Request, key: string): Promise<Response> {
	try {
		const context = await callerOf(request);
		const file = FILES.find((one) => one.key === key);
		if (!file) throw notFound("table", key);
		const query = new URL(request.url).searchParams;
		assertStorable(Object.fromEntries(query));
		const form = FILE_FORMS.find((one) => one === query.get("form")) ?? "csv";
		const viewpoint = viewpointOf(context, query);
		const content = await file.read(context, viewpoint, (name) => query.get(name) || undefined);
		const { name, type, bytes } = await writeTableFile(context, viewpoint, { key, form, content });
		return new Response(bytes as BodyInit, { headers: { "content-type": type, "content-disposition": `attachment; filename="${name}"` } });
	} catch (error) {
		return faultResponse(error);
	}
}

/** A proxy in front doesn’t wait longer to hear whether a server is well, in ms. */
const SOON = 500;

/** Whether this process can answer: the database is there and its tables are, or what it has in memory can be read. */
export async function healthAnswer(): Promise<Response> {
	const fromMemory = () => {
		if (keptRevision() === null) throw new DatabaseAway();
		return Response.json({ state: "the database can’t be reached: what is in memory can be read, but nothing written" });
	};
	const asked = async () => {
		await connection().db.execute(sql`select 1 from organisation`);
		return Response.json({ state: diskFullLately(Date.now()) ? "the disk is full: data can be read, but not written" : "well" });
	};
	let timer: NodeJS.Timeout | undefined;
	const soon = new Promise<null>((resolve) => {
		timer = setTimeout(resolve, SOON, null);
	});
	try {
		const answer = orKnown(asked, fromMemory);
		// One that hasn’t read anything yet has to wait for it.
		if (keptRevision() === null) return await answer;
		return (await Promise.race([answer, soon])) ?? whileSlow();
	} catch {
		return Response.json({ state: "the database doesn’t respond" }, { status: 503 });
	} finally {
		clearTimeout(timer);
	}
}

const whileSlow = (): Response => Response.json({ state: "the database is slow: what is in memory can be read" });

/** How long is waited for what was written to be read, ms. */
const PATIENCE = 5000;

/** Whether this process has read the company and all that was written: what is asked of it then is answered at once, and true. */
export async function readyAnswer(): Promise<Response> {
	const { db } = connection();
	let timer: NodeJS.Timeout | undefined;
	const late = new Promise<"late">((resolve) => {
		timer = setTimeout(resolve, PATIENCE, "late");
	});
	try {
		const found = await Promise.race([currentOrganisation(db), late]);
		if (found === "late") return Response.json({ state: "the company is still being read", revision: keptRevision() }, { status: 503 });
		return Response.json({ state: "ready", revision: found.revision });
	} catch {
		return Response.json({ state: "the database doesn’t respond" }, { status: 503 });
	} finally {
		clearTimeout(timer);
	}
}

/** A part of an address, or itself where it isn't one that can be decoded. */
function decoded(part: string): string {
	try {
		return decodeURIComponent(part);
	} catch {
		return part;
	}
}
