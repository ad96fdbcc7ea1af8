"use client";
import { plural } from "@/core/time/words";
import { levelWord } from "@/ui/parts/Level";
import { Scrolls } from "@/ui/parts/Scrolls";
import type { readForetelling } from "../server/readPatterns";
import { Looking } from "./Looking";
import { percent, ShareBar } from "./ShareBar";
import "./patterns.css";

type View = ReturnType<typeof readForetelling>;

/** so much more or less often: nothing is foretold in between */
const TELLS = 1.15;

/** What foretold that a deal isn't won in time: flags, levels of attention, and answers. */
export function ForetellScreen({ view, look }: { view: View; look: { readonly quarters: number; readonly lead: number } }) {
	const flags = [...view.flags].filter((one) => one.with.n > 0).sort((a, b) => (b.lift ?? 0) - (a.lift ?? 0));
	const best = flags.find(({ lift }) => lift !== null && lift >= TELLS);
	const none = flags.filter(({ lift }) => lift !== null && lift < TELLS && lift > 1 / TELLS);
	const questions = [...new Map(view.answers.map(({ question, prompt }) => [question, prompt]))];
	return (
		<>
			<h2>
				{!view.quarters.length
					? "The past is too short to say what foretells"
					: best
						? `Of deals with “${best.name}”, ${percent(best.with.share)} weren’t won in time; without it ${percent(best.without.share)}`
						: "No flag foretold whether deals are won in time"}
			</h2>
			<Looking look={look} lead="Everybody’s deals due" />
			{none.length > 0 && (
				<p className="second">
					{plural(none.length, "flag")} foretold nothing: {none.map(({ name }) => name).join(", ")}. That a flag goes with losing doesn’t say that it causes it.
				</p>
			)}
			<Scrolls of="Flags" className="panel p-0">
				<table className="table mb-0">
					<thead>
						<tr>
							<th scope="col">Flag</th>
							<th scope="col">Not won in time with it</th>
							<th scope="col">Without it</th>
							<th scope="col" className="num">
								Times as often
							</th>
						</tr>
					</thead>
					<tbody>
						{flags.map(({ code, name, with: own, without, lift }) => (
							<tr key={code}>
								<th scope="row">{name}</th>
								<td>
									<ShareBar share={own} />
								</td>
								<td>
									<ShareBar share={without} />
								</td>
								<td className="num">{lift === null ? <span className="third">–</span> : lift.toFixed(2)}</td>
							</tr>
						))}
					</tbody>
				</table>
			</Scrolls>
			<div className="patterns-two">
				<div>
					<h2 className="mt-3">By level of attention</h2>
					<Scrolls of="Levels of attention" className="panel p-0">
						<table className="table mb-0">
							<tbody>
								{view.levels.map((one) => (
									<tr key={one.level}>
										<th scope="row">{one.level}</th>
										<td>
											<ShareBar share={one} />
										</td>
									</tr>
								))}
							</tbody>
						</table>
					</Scrolls>
				</div>
				<div>
					<h2 className="mt-3">By answer</h2>
					<Scrolls of="Answers" className="panel p-0">
						<table className="table mb-0">
							<tbody>
								{questions.map(([question, prompt]) => (
									<tr key={question}>
										<th scope="row" className="fw-normal">
											{prompt}
										</th>
										<td>
											{view.answers
												.filter((one) => one.question === question)
												.map((one) => (
													<span key={one.level} className="d-flex gap-2 align-items-center">
														<span className="tiny answer-level">{levelWord(one.level)}</span>
														<ShareBar share={one} />
													</span>
												))}
										</td>
									</tr>
								))}
							</tbody>
						</table>
					</Scrolls>
				</div>
			</div>
		</>
	);
}
