import { Alert, Button } from "react-bootstrap";
import { byCount, plural } from "@/core/words/grammar";
import { grouped } from "@/ui/format";
import { Heads, num } from "@/ui/parts/Heads";
import { Scrolls } from "@/ui/parts/Scrolls";
import type { ImportJson } from "../server/importBundle";

const WORDS: Partial<Record<ImportJson["state"], [variant: string, words: string]>> = {
	done: ["success", "Imported completely."],
	checked: ["success", "Checked. Ready to import; nothing was changed yet."],
	refused: ["danger", "Nothing was imported."],
	failed: ["danger", "The import failed. Nothing was imported."],
};

/** What became of an import: rows by file, and each problem with its place. */
export function ImportReport({ report, onSkipBad }: { report: ImportJson; onSkipBad: (() => void) | undefined }) {
	const [variant, words] = WORDS[report.state] ?? ["warning", report.state];
	const files = Object.keys(report.counts);
	const changed = Object.values(report.changed).reduce((sum, n) => sum + n, 0);
	const unknown = Object.entries(report.unknownColumns);
	return (
		<div className="mt-3" role="status">
			<Alert variant={variant}>
				<b>
					{report.name}: {report.state === "done" && changed === 0 ? "Everything was already here; nothing changed." : words}
				</b>
				{report.problemCount > 0 &&
					` ${report.problemCount} ${byCount(report.problemCount, "problem was", "problems were")} found${report.state === "done" ? "; those rows were skipped" : ""}.`}{" "}
				{report.step}
			</Alert>
			{report.causes.length > 0 && <Causes report={report} />}
			{onSkipBad && report.leavable && (
				<Button size="sm" variant="outline-primary" className="mt-2" onClick={onSkipBad}>
					Import the good rows, skip these
				</Button>
			)}
			{files.length > 0 && (
				<table className="table small-text mt-3">
					<Heads of={["File", num("Rows read"), num("Added or changed")]} />
					<tbody>
						{files.map((file) => (
							<tr key={file}>
								<td>{file}</td>
								<td className="num">{report.counts[file]}</td>
								<td className="num">{report.changed[file] ?? "–"}</td>
							</tr>
						))}
					</tbody>
				</table>
			)}
			{unknown.length > 0 && (
				<p className="small-text second mt-2 mb-0">Unknown columns were kept: {unknown.map(([file, names]) => `${names.join(", ")} in ${file}`).join("; ")}.</p>
			)}
		</div>
	);
}

/** What is wrong, one cause a line; first what most rests on. */
function Causes({ report }: { report: ImportJson }) {
	return (
		<Scrolls of="Problems" className="mt-2">
			<table className="table small-text">
				<Heads of={["What is wrong", "File, column", num("Rows"), "Lines", "Such as"]} />
				<tbody>
					{report.causes.map((cause) => (
						<tr key={`${cause.file} ${cause.column} ${cause.reason}`}>
							<td>
								{cause.reason}
								{cause.rests > 0 && (
									<span className="worse d-block">
										{plural(cause.rests, "row")} elsewhere refer to {byCount(cause.count, "it", "these")}
									</span>
								)}
							</td>
							<td>
								{cause.file}
								{cause.column && <span className="second d-block">{cause.column}</span>}
							</td>
							<td className="num">{cause.lines.length ? grouped(cause.count) : ""}</td>
							<td className="num">
								{cause.lines.join(", ")}
								{cause.lines.length > 0 && cause.count > cause.lines.length && " …"}
							</td>
							<td className="problem-value" dir="auto">
								{cause.values.join(" · ")}
							</td>
						</tr>
					))}
				</tbody>
			</table>
		</Scrolls>
	);
}
