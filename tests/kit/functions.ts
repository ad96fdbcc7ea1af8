import { readFileSync } from "node:fs";
import { type Node, parseSync, Visitor } from "oxc-parser";

/** A function of a source with its length in lines. */
export interface FunctionOf {
	readonly file: string;
	/** where it begins, from 1 */
	readonly line: number;
	readonly lines: number;
}

/** All functions of a source file, those within others too. */
export function functionsOf(file: string, code = readFileSync(file, "utf8")): FunctionOf[] {
	const breaks = [...code.matchAll(/\n/g)].map(({ index }) => index);
	const lineAt = (offset: number) => {
		let low = 0;
		let high = breaks.length;
		while (low < high) {
			const middle = (low + high) >> 1;
			if ((breaks[middle] as number) < offset) low = middle + 1;
			else high = middle;
		}
		return low + 1;
	};
	const found: FunctionOf[] = [];
	const take = ({ start, end }: Node) => void found.push({ file, line: lineAt(start), lines: lineAt(end) - lineAt(start) + 1 });
	new Visitor({ FunctionDeclaration: take, FunctionExpression: take, ArrowFunctionExpression: take }).visit(parseSync(file, code).program);
	return found;
}
