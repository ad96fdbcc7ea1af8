import { processSingleton } from "@/data/processSingleton";
import { isAway } from "@/data/reach";
import { Fault } from "./fault";

const codeOf = (error: unknown): string | undefined => {
	for (let at = error, depth = 0; at instanceof Error && depth < 5; at = at.cause, depth++)
		if ("code" in at && typeof at.code === "string" && /^[0-9A-Z]{5}$/.test(at.code)) return at.code;
	return undefined;
};

const fullAt = () => processSingleton("disk full", () => ({ at: 0 }));
const LATELY = 10 * 60_000;

/** Whether the disk was full when this process last wrote, within the last ten minutes. */
export const diskFullLately = (now: number): boolean => fullAt().at > now - LATELY;

/** Notes that something was used, which a full disk doesn't keep anybody from using. */
export async function unlessFull(work: Promise<unknown>): Promise<void> {
	try {
		await work;
	} catch (error) {
		const fault = databaseFault(error);
		if (!(fault instanceof Fault && fault.status === 507)) throw error;
	}
}

/** What the database's own refusals (SQLSTATE) mean for the caller; what isn't one of them is given back as it is. */
export function databaseFault(error: unknown): unknown {
	switch (codeOf(error)) {
		// unique_violation, serialization_failure, deadlock_detected
		case "23505":
		case "40001":
		case "40P01":
			return new Fault(
				409,
				"Changed at the same moment",
				"Someone made the same or a conflicting change at the same moment. Yours wasn’t saved. Check and try again.",
			);
		// disk_full
		case "53100":
			fullAt().at = Date.now();
			return new Fault(
				507,
				"The disk is full",
				"The disk is full, so nothing can be saved; everything can still be read. Ask the administrator of this server to free space.",
			);
		default:
			return isAway(error) ? new Fault(503, "Please wait", "The database can’t be reached just now. Nothing was changed. Try again in a moment.") : error;
	}
}
