"use client";
import { useRouter } from "next/navigation";
import { type KeyboardEvent, useCallback, useRef, useState } from "react";
import type { Level } from "@/core/qualification/answer";
import { useMay } from "@/ui/frame/may";
import { useNotice } from "@/ui/Notices";
import { levelWord } from "@/ui/parts/Level";
import { useRun } from "@/ui/run";
import { useRefresh } from "@/ui/useAct";

/** Which cell of the grid: its row and its column as they are shown. */
export interface Place {
	readonly row: number;
	readonly column: number;
}

/** What a cell holds. */
export interface GridAnswer {
	readonly dealId: string;
	readonly deal: string;
	readonly questionId: string;
	readonly prompt: string;
	readonly level: Level;
}

/** What was said in the place of what the screen had read; once that has changed, what was read counts. */
interface Said {
	readonly level: Level;
	readonly over: Level;
}

const STEPS: Readonly<Record<string, readonly [row: number, column: number]>> = {
	ArrowUp: [-1, 0],
	ArrowDown: [1, 0],
	ArrowLeft: [0, -1],
	ArrowRight: [0, 1],
};
const LEVELS: Readonly<Record<string, Exclude<Level, "shown">>> = { "0": "unknown", "1": "assumed", "2": "heard", "4": "against" };
const keyOf = ({ dealId, questionId }: Pick<GridAnswer, "dealId" | "questionId">) => `${dealId} ${questionId}`;

/**
 * The keys of the grid: arrows go from answer to answer, a figure answers where it stands and is heard at once. What was said
 * is shown while it is sent, one after the other; what is refused says so and shows what stands.
 */
export function useGrid(at: (place: Place) => GridAnswer | null, open: (dealId: string) => string) {
	// Long: one state with all that changes it.
	const may = useMay("answerQuestions");
	const [here, setHere] = useState<Place>({ row: 0, column: 0 });
	const [said, setSaid] = useState<ReadonlyMap<string, Said>>(new Map());
	const line = useRef<Promise<unknown>>(Promise.resolve());
	const run = useRun();
	const notice = useNotice();
	const refresh = useRefresh();
	const router = useRouter();
	const say = useCallback(
		(answer: GridAnswer, level: Exclude<Level, "shown">, seen: Level) => {
			const key = keyOf(answer);
			setSaid((before) => new Map(before).set(key, { level, over: answer.level }));
			const forget = () =>
				setSaid((before) => {
					if (before.get(key)?.level !== level) return before;
					const left = new Map(before);
					left.delete(key);
					return left;
				});
			line.current = line.current.then(async () => {
				const { dealId, questionId } = answer;
				const done = await run("evidence.answerCell", { dealId, questionId, level, seen });
				if (!done.ok) {
					forget();
					refresh();
					return notice({ words: `${answer.deal}: ${done.detail}` });
				}
				refresh();
				const { at: seenAt, before } = done.result;
				notice({
					words: `${answer.deal}: ${answer.prompt} ${levelWord(level)}.`,
					undo: async () => {
						const back = await run("evidence.answer", { dealId, questionId, ...before, seenAt });
						forget();
						refresh();
						if (!back.ok) notice({ words: back.detail });
					},
				});
			});
		},
		[run, refresh, notice],
	);
	const levelOf = (answer: GridAnswer): Level => {
		const own = said.get(keyOf(answer));
		return own && own.over === answer.level ? own.level : answer.level;
	};
	const pressed = (event: KeyboardEvent<HTMLElement>) => {
		if (event.ctrlKey || event.metaKey || event.altKey || !(event.target as HTMLElement).matches("[data-place]")) return;
		const step = STEPS[event.key];
		if (step) {
			const next = { row: here.row + step[0], column: here.column + step[1] };
			if (!at(next)) return;
			event.preventDefault();
			setHere(next);
			event.currentTarget.querySelector<HTMLElement>(`[data-place="${next.row} ${next.column}"]`)?.focus();
			return;
		}
		const answer = at(here);
		if (!answer) return;
		if (event.key === "Enter") router.push(open(answer.dealId));
		else if (event.key === "3" && may) notice({ words: "“Shown” needs a source: press Enter and answer it on the deal." });
		else if (LEVELS[event.key] && may) say(answer, LEVELS[event.key] as Exclude<Level, "shown">, levelOf(answer));
		else return;
		event.preventDefault();
		event.stopPropagation();
	};
	return { here, setHere, pressed, levelOf, may };
}
