"use client";
import { byCount } from "@/core/words/grammar";
import { grouped } from "@/ui/format";
import type { EvidenceQuestion } from "../server/readEvidence";

export function GridHead({ count, questions }: { count: number; questions: readonly EvidenceQuestion[] }) {
	return (
		<thead>
			<tr>
				<th scope="col" className="grid-deal">
					{grouped(count)} {byCount(count, "deal", "deals")}
				</th>
				<th scope="col" className="grid-sum">
					Strength of expected
				</th>
				{questions.map((question) => (
					<th key={question.id} scope="col" className="grid-question" title={`${question.prompt} Weight ${question.weight}`}>
						<span>
							{question.key && <b className="grid-key">key </b>}
							{question.prompt}
						</span>
					</th>
				))}
			</tr>
			<tr className="grid-share">
				<th scope="row" colSpan={2}>
					Gaps where due
				</th>
				{questions.map((question) => (
					<td key={question.id} title={`Due on ${question.due} deals, a gap on ${question.gaps}; asked on ${question.asked} of ${count}`}>
						<ShareBar question={question} />
						<span className="tiny">
							{grouped(question.gaps)} of {grouped(question.due)}
						</span>
					</td>
				))}
			</tr>
		</thead>
	);
}

function ShareBar({ question }: { question: EvidenceQuestion }) {
	const width = question.due ? (100 * question.gaps) / question.due : 0;
	return (
		<svg className="bar" width="100%" height={6} aria-hidden="true">
			<rect className="bar-ground" width="100%" height={6} />
			<rect className="bar-gone" width={`${width}%`} height={6} />
		</svg>
	);
}
