import { expect, test } from "vitest";
import { parseDay } from "@/core/time/day";
import { planOf } from "@/features/sheet/server/records";

type DealRecords = Parameters<typeof planOf>[0];

const step = (dueOn: string | null, doneOn: string | null = null) =>
	({ id: "s", title: "Contract", dueOn, doneOn, side: "ours" }) as DealRecords["steps"][number];
const on = (iso: string, one: ReturnType<typeof step>) => {
	const [found] = planOf({ steps: [one] } as unknown as DealRecords, parseDay(iso) as number);
	return [found?.late, found?.done];
};

test("a close-plan step is late from the day after its own, until it is done, and as each day knew it", () => {
	expect(on("2026-11-30", step("2026-12-01"))).toEqual([false, null]);
	expect(on("2026-12-01", step("2026-12-01"))).toEqual([false, null]);
	expect(on("2026-12-02", step("2026-12-01"))).toEqual([true, null]);
	// Done on the 3rd: still late on the 2nd, no longer from the 3rd on.
	expect(on("2026-12-02", step("2026-12-01", "2026-12-03"))).toEqual([true, null]);
	expect(on("2026-12-03", step("2026-12-01", "2026-12-03"))).toEqual([false, "2026-12-03"]);
	expect(on("2030-01-01", step(null))).toEqual([false, null]);
});
