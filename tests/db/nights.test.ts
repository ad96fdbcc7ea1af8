import { eq } from "drizzle-orm";
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { connection } from "@/data/db";
import { audit, marks } from "@/data/schema";
import { keepNights } from "@/features/changes/server/keepNights";
import { keepMark, readMarks } from "@/features/changes/server/marks";
import { storedBundle } from "@/features/import/server/exportBundle";
import { startJobs } from "@/platform/jobs";
import { resolveViewpoint, viewpointChoices } from "@/platform/viewpoint";
import { as, freshDatabase, refill } from "../kit/database";
import { inspected } from "../kit/inspection";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("nights");
});
beforeEach(() => refill(inspected()));
afterEach(() => {
	delete process.env.PORCH_LAMP_TODAY;
});
afterAll(() => database.drop());

const names = async () => readMarks(await as("ops")).map((mark) => `${mark.day} ${mark.name}`);

describe("nights", () => {
	test("the night before is kept and sealed; doing it again changes nothing", async () => {
		expect(await keepNights()).toEqual(["2026-11-23"]);
		expect(await keepNights()).toEqual([]);
		const [mark] = readMarks(await as("ops"));
		// In Berlin the 23rd ends at eleven in the evening of UTC.
		expect(mark).toMatchObject({ name: "Night", at: "2026-11-23T22:59:59.999Z", byId: null, fits: true });
		expect(await connection().db.select().from(audit).where(eq(audit.action, "night saved"))).toHaveLength(1);
	});
	test("what was missed is made good, under the period’s name where one ended", async () => {
		await keepNights();
		process.env.PORCH_LAMP_TODAY = "2026-11-27";
		expect(await keepNights()).toEqual(["2026-11-24", "2026-11-25", "2026-11-26"]);
		process.env.PORCH_LAMP_TODAY = "2027-01-02";
		expect((await keepNights()).length).toBe(36);
		expect(await names()).toContain("2026-12-31 End of Oct–Dec 2026");
		expect(await names()).not.toContain("2026-12-31 Night");
		// The last mark that is offered is the one that is taken: kept by somebody, not by the program.
		await keepMark(await as("north"), { name: "By hand" });
		process.env.PORCH_LAMP_TODAY = "2027-01-05";
		await keepNights();
		const north = await as("north");
		expect(viewpointChoices(north, north.now.day).lastMark).toBe(resolveViewpoint(north, { against: "mark" }).against.label);
	});
	test("after a long pause only the last quarter is filled", async () => {
		await keepNights();
		process.env.PORCH_LAMP_TODAY = "2028-01-02";
		const days = await keepNights();
		expect([days.length, days.at(-1)]).toEqual([93, "2028-01-01"]);
	});
	test("are not offered one by one, aren’t what a day is compared with by itself, and stay out of a bundle", async () => {
		const against = resolveViewpoint(await as("north"), {}).against.day;
		process.env.PORCH_LAMP_TODAY = "2026-11-23";
		await keepNights();
		await keepMark(await as("north"), { name: "By hand" });
		delete process.env.PORCH_LAMP_TODAY;
		await keepNights();
		expect(resolveViewpoint(await as("north"), {}).against.day).toBe(against);
		const bundle = new TextDecoder().decode((await storedBundle()).get("marks.csv"));
		expect(bundle).toContain("By hand");
		expect(bundle).not.toContain("Night");
	});
	test("a mark by hand is no night: the night is kept all the same", async () => {
		process.env.PORCH_LAMP_TODAY = "2026-11-23";
		await keepMark(await as("north"), { name: "Late round" });
		delete process.env.PORCH_LAMP_TODAY;
		expect(await keepNights()).toEqual(["2026-11-23"]);
	});
});

test("several processes never work at once, keep a night once, and look again at every start", async () => {
	let running = 0;
	let most = 0;
	let runs = 0;
	const errors: Error[] = [];
	const job = {
		zone: "Europe/Berlin",
		jobs: [
			{
				name: "keep-nights",
				work: async () => {
					most = Math.max(most, ++running);
					await keepNights();
					await new Promise((resolve) => setTimeout(resolve, 300));
					running--;
					runs++;
				},
			},
		],
		onError: (error: Error) => void errors.push(error),
	};
	const started = await Promise.all([1, 2, 3].map(() => startJobs(database.url, job)));
	await expect.poll(() => runs, { timeout: 40_000, interval: 200 }).toBeGreaterThanOrEqual(1);
	// A process that is started right after the others finds what was missed meanwhile.
	process.env.PORCH_LAMP_TODAY = "2026-11-26";
	started.push(await startJobs(database.url, job));
	// A run that one of the first had asked for may come in between: what counts is that the nights are there in the end.
	const nights = async () =>
		(await connection().db.select().from(marks).where(eq(marks.name, "Night"))).map((mark) => mark.at.toISOString().slice(0, 10)).sort();
	await expect.poll(nights, { timeout: 40_000, interval: 200 }).toEqual(["2026-11-23", "2026-11-24", "2026-11-25"]);
	expect(most).toBe(1);
	expect((await connection().db.select().from(audit).where(eq(audit.action, "night saved"))).length).toBe(2);
	const { rows } = await connection().pool.query("select name, cron, timezone from pgboss.schedule");
	expect(rows).toEqual([{ name: "keep-nights", cron: "5 0 * * *", timezone: "Europe/Berlin" }]);
	const { rows: queue } = await connection().pool.query("select retry_limit, retry_backoff, policy from pgboss.queue where name = 'keep-nights'");
	expect(queue).toEqual([{ retry_limit: 5, retry_backoff: true, policy: "standard" }]);
	// One that was killed at work leaves it behind as if it were still at it; that stops nobody.
	await connection().pool.query("update pgboss.job set state = 'active', started_on = now(), completed_on = null where name = 'keep-nights'");
	const left = runs;
	started.push(await startJobs(database.url, job));
	await expect.poll(() => runs, { timeout: 40_000, interval: 200 }).toBeGreaterThan(left);
	await Promise.all(started.map((one) => one.stop()));
	expect(errors).toEqual([]);
});
