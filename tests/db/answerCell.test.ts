import { afterAll, beforeAll, beforeEach, expect, test } from "vitest";
import { answerCell, answerQuestion } from "@/features/evidence/server/answerQuestion";
import { readEvidence } from "@/features/evidence/server/readEvidence";
import { resolveViewpoint } from "@/platform/viewpoint";
import { small } from "../kit/bundle";
import { as, freshDatabase, refill } from "../kit/database";
import { faultOf } from "../kit/fault";

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("answercell");
});
afterAll(() => database.drop());
beforeEach(() =>
	refill(
		small({
			"questions.csv": ["id,area,prompt,help,weight,due_stage_position,key", "q1,Need,What hurts?,,1,1,true"],
			"answers.csv": ["deal_id,question_id,level,note,at,by_id", "d1,q1,heard,They said so,2026-11-12T09:00:00Z,rep1"],
		}),
	),
);

/** The level of a deal's answer to the first question of the grid, and that question's id. */
async function first(dealId: string) {
	const context = await as("boss");
	const { questions, deals } = readEvidence(context, resolveViewpoint(context, { due: "any" }));
	return { questionId: questions[0]?.id ?? "", level: deals.find(({ id }) => id === dealId)?.cells[0]?.level ?? "unknown" };
}

test("an answer is given where only its level was seen, refused where another was given since, and comes back", async () => {
	const { questionId, level } = await first("d1");
	const next = level === "heard" ? "assumed" : "heard";
	const { at, before } = await answerCell(await as("rep1"), { dealId: "d1", questionId, level: next, seen: level });
	expect((await first("d1")).level).toBe(next);
	expect(before.level).toBe(level);
	const late = await faultOf(async () => answerCell(await as("north"), { dealId: "d1", questionId, level: "against", seen: level }));
	expect(late).toMatchObject({ status: 409, title: "Answered by someone else" });
	await answerQuestion(await as("rep1"), { dealId: "d1", questionId, ...before, seenAt: at });
	expect((await first("d1")).level).toBe(level);
});

test("what is shown needs what shows it, a question that isn’t asked isn’t answered, and others’ deals aren’t there", async () => {
	const { questionId, level } = await first("d1");
	await expect(answerCell(await as("rep1"), { dealId: "d1", questionId, level: "shown" as never, seen: level })).rejects.toThrow();
	expect((await faultOf(async () => answerCell(await as("rep1"), { dealId: "d1", questionId: "none", level: "heard", seen: "unknown" }))).status).toBe(404);
	expect((await faultOf(async () => answerCell(await as("rep2"), { dealId: "d1", questionId, level: "heard", seen: level }))).status).toBe(404);
	expect((await faultOf(async () => answerCell(await as("view"), { dealId: "d1", questionId, level: "heard", seen: level }))).status).toBe(403);
});
