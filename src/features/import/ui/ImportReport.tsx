import { Alert, Button } from "react-bootstrap";
import type { ImportJson } from "../server/importBundle";

const WORDS: Partial<Record<ImportJson["state"], [variant: string, words: string]>> = {
	done: ["success", "Imported. All of it is in."],
	checked: ["success", "Checked. Nothing was written; it can be imported as it is."],
	refused: ["danger", "Nothing was written."],
	failed: ["danger", "The import failed, and nothing was written."],
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
					{report.name}: {report.state === "done" && changed === 0 ? "Everything was there already; nothing changed." : words}
				</b>
				{report.problemCount > 0 &&
					` ${report.problemCount} ${report.problemCount === 1 ? "problem was" : "problems were"} found${report.state === "done" ? "; those rows were left out" : ""}.`}{" "}
				{report.step}
			</Alert>
			{report.problems.length > 0 && (
				<div className="changed-scroll mt-2" tabIndex={0} role="region" aria-label="Problems, scrollable">
					<table className="table small-text">
						<thead>
							<tr>
								<th>File</th>
								<th className="num">Line</th>
								<th>Column</th>
								<th>Value</th>
								<th>What is wrong</th>
							</tr>
						</thead>
						<tbody>
							{report.problems.slice(0, 200).map((p, i) => (
								<tr key={String(i)}>
									<td>{p.file}</td>
									<td className="num">{p.line}</td>
									<td>{p.column}</td>
									<td className="problem-value" dir="auto">
										{p.value}
									</td>
									<td>{p.reason}</td>
								</tr>
							))}
						</tbody>
					</table>
					{report.problemCount > 200 && (
						<p className="second small-text p-2 mb-0">The first 200 of {report.problemCount} are shown; the API gives up to 1000.</p>
					)}
				</div>
			)}
			{onSkipBad && report.problems.every((p) => (p.line ?? 0) > 1) && (
				<Button size="sm" variant="outline-primary" className="mt-2" onClick={onSkipBad}>
					Import the good rows, leave these out
				</Button>
			)}
			{files.length > 0 && (
				<table className="table small-text mt-3">
					<thead>
						<tr>
							<th>File</th>
							<th className="num">Rows read</th>
							<th className="num">Added or changed</th>
						</tr>
					</thead>
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
				<p className="small-text second mt-2 mb-0">
					Columns the program doesn’t know were kept aside: {unknown.map(([file, names]) => `${names.join(", ")} in ${file}`).join("; ")}.
				</p>
			)}
		</div>
	);
}
