"use client";
import { nearDate } from "@/ui/format";
import { levelWord } from "@/ui/parts/Level";
import type { SheetQuestion } from "../server/questions";

/** Who answered when, the newest first. */
export function AnswerHistory({ question, seen }: { question: SheetQuestion; seen: string }) {
	if (!question.history.length) return <p className="tiny second mb-0">No answer yet.</p>;
	return (
		<ul className="rows tiny">
			{question.history.map((answer) => (
				<li key={`${answer.day}${answer.level}${answer.note}`}>
					<span>
						<b>{levelWord(answer.level)}</b>
						{answer.note && ` “${answer.note}”`}
						{answer.shownBy && (
							<span className="second d-block">
								shown by{" "}
								{answer.link ? (
									<a href={answer.link} target="_blank" rel="noreferrer noopener">
										{answer.shownBy}
									</a>
								) : (
									answer.shownBy
								)}
							</span>
						)}
					</span>
					<span className="second text-nowrap">
						{answer.by ?? "unknown"}, {nearDate(answer.day, seen)}
					</span>
				</li>
			))}
		</ul>
	);
}
