import { readFileSync } from "node:fs";
import { type Node, parseSync, Visitor } from "oxc-parser";

/** A function of a source with its length in lines. */
export interface FunctionOf {
	readonly file: string;
	/** where it begins, from 1 */
	readonly line: number;
	readonly lines: number;
	/** why it is long, as its first line says; null where it doesn’t */
	readonly why: string | null;
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
	const take = ({ start, end, body }: Node & { readonly body: Node | null }) => {
		const why = /^[{[]\s*\/\/ Long: (.+)/.exec(code.slice(body?.start ?? end))?.[1] ?? null;
		found.push({ file, line: lineAt(start), lines: lineAt(end) - lineAt(start) + 1, why });
	};
	new Visitor({ FunctionDeclaration: take, FunctionExpression: take, ArrowFunctionExpression: take }).visit(parseSync(file, code).program);
	return found;
}
