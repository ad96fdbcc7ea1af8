/** so long may the name of a sheet be, as workbooks have it */
const LONGEST = 31;

/**
 * Titles as names of sheets: without the signs that a workbook refuses, short enough, each once, none empty.
 *
 * @example sheetNames(["By rep", "By rep", ""]) // ["By rep", "By rep 2", "Table 3"]
 */
export function sheetNames(titles: readonly string[]): string[] {
	const taken = new Set<string>();
	return titles.map((title, i) => {
		const plain =
			title
				.replace(/[\\/*?:[\]']/g, " ")
				.replace(/\s+/g, " ")
				.trim() || `Table ${i + 1}`;
		let name = plain.slice(0, LONGEST);
		for (let n = 2; taken.has(name.toLowerCase()); n++) name = `${plain.slice(0, LONGEST - String(n).length - 1)} ${n}`;
		taken.add(name.toLowerCase());
		return name;
	});
}
