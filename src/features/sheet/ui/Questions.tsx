"use client";
import { useState } from "react";
import { plural } from "@/core/words/grammar";
import { Evidence } from "@/ui/parts/Bars";
import { Term } from "@/ui/parts/Term";
import type { SheetView } from "../server/sheetView";
import { Question } from "./Question";

/** What is known and how well: one click or one key an answer, each with what it would do to the strength. */
export function Questions({ view, onTask }: { view: SheetView; onTask: (title: string, flags: string[]) => void }) {
	const { strength, coverage, expected, questions } = view.qualification;
	const [open, setOpen] = useState<string | null>(null);
	const areas = [...new Set(questions.map((question) => question.area))];
	const gaps = questions.filter((question) => question.gap).length;
	return (
		<section aria-label="Evidence">
			<div className="evidence-head">
				<h3>
					<Term of="evidence" />
					{gaps > 0 && `: ${plural(gaps, "gap")}`}
				</h3>
				<Evidence strength={strength} coverage={coverage} expected={expected} width={150} />
				<span className="small-text">
					strength <b>{strength}</b> · coverage <b>{coverage}</b> · expected <b>{expected}</b>
				</span>
			</div>
			{view.mayEdit && questions.length > 0 && (
				<p className="tiny second mb-1 no-print">
					The figure beside an answer is the strength it would give. With a question in focus: 0 unknown, 1 assumed, 2 heard, 3 shown, 4 against us.
				</p>
			)}
			{areas.map((area) => (
				<div key={area}>
					<h4 className="area">{area}</h4>
					<ul className="questions">
						{questions
							.filter((question) => question.area === area)
							.map((question) => (
								<Question
									key={question.id}
									question={question}
									view={view}
									open={open === question.id}
									onOpen={(on) => setOpen(on ? question.id : null)}
									onTask={onTask}
								/>
							))}
					</ul>
				</div>
			))}
			{!questions.length && <p className="second small-text mb-0">No questions yet; ops adds them in Setup.</p>}
		</section>
	);
}
