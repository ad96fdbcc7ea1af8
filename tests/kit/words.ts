import { readdirSync, readFileSync } from "node:fs";
import { join, relative } from "node:path";
import { type Node, parseSync, Visitor } from "oxc-parser";

/** A text of the program's source that people read. */
export interface Text {
	/** path from the project's root */
	readonly file: string;
	/** from 1 */
	readonly line: number;
	/** as it is written, spaces made one, `{}` where a value goes in */
	readonly text: string;
	/** it stands on a button, a link or a menu's item, or is the words that a command's button has */
	readonly acts: boolean;
}

const SRC = join(import.meta.dirname, "../../src");
/** Attributes that nobody reads. */
const SILENT =
	/^(className|class|style|href|src|key|id|htmlFor|d|viewBox|transform|points|fill|stroke.*|type|role|rel|target|variant|size|as|name|value|data-.*|aria-(labelledby|describedby|controls|current|live|sort|haspopup|autocomplete))$/;
const ACTING = /^(Button|button|Link|a|Dropdown\.Item|summary|Nav\.Link)$/;

/** The sources whose texts people read: everything but tests and the made-up company's own names and notes. */
export function sources(folder = SRC): string[] {
	return readdirSync(folder, { recursive: true, encoding: "utf8" })
		.filter((name) => /\.tsx?$/.test(name) && !/\.test\.|^fakes\/emberwick/.test(name))
		.map((name) => join(folder, name))
		.sort();
}

/** A text is read when it has a word and either a space, or a capital at its start. */
const isRead = (text: string): boolean => /\p{L}{2}/u.test(text) && (/\p{L}\S* \S/u.test(text) || /^\p{Lu}\p{Ll}+(…|\.|:|\?)?$/u.test(text));
/** Spaces made one, and of a page's markup only what is read. */
const plain = (text: string): string =>
	(/<\/?[a-z!]/i.test(text) ? text.replace(/<(style|head)>.*?<\/\1>/gs, " ").replace(/<[^>]*>/g, " ") : text).replace(/\s+/g, " ").trim();
/** A selector, a header or a line of code in quotes. */
const isCode = (text: string): boolean => /=>|=\\?"|;\s*filename|^\W*\[|:not\(|\{\}\/\w/.test(text) && !/\p{L}\. /u.test(text);

/** All texts of one source file, in their order. */
export function textsOf(path: string, code = readFileSync(path, "utf8")): Text[] {
	const { program, errors } = parseSync(path, code);
	if (errors.length) throw new Error(`${path}: ${errors[0]?.message}`);
	const file = relative(join(SRC, ".."), path);
	const starts = [0];
	for (let at = code.indexOf("\n"); at >= 0; at = code.indexOf("\n", at + 1)) starts.push(at + 1);
	const lineOf = (offset: number): number => starts.findLastIndex((start) => start <= offset) + 1;
	const silent: [number, number][] = [];
	const acting: [number, number][] = [];
	const hush = (node: Node | null | undefined) => node && silent.push([node.start, node.end]);
	const within = (spans: readonly [number, number][], { start, end }: Node) => spans.some(([from, to]) => from <= start && end <= to);
	const found: { node: Node; text: string }[] = [];
	new Visitor({
		ImportDeclaration: (node) => void hush(node.source),
		ExportNamedDeclaration: (node) => void hush(node.source),
		ExportAllDeclaration: (node) => void hush(node.source),
		ImportExpression: (node) => void hush(node.source),
		TSLiteralType: (node) => void hush(node),
		TaggedTemplateExpression: (node) => void hush(node.quasi),
		JSXAttribute: (node) => void (node.name.type === "JSXIdentifier" && SILENT.test(node.name.name) ? hush(node.value) : hush(node.name)),
		JSXElement: (node) => {
			const name = code.slice(node.openingElement.name.start, node.openingElement.name.end);
			if (ACTING.test(name)) acting.push([node.start, node.end]);
		},
		JSXText: (node) => void found.push({ node, text: node.value }),
		Literal: (node) => void (typeof node.value === "string" && found.push({ node, text: node.value })),
		TemplateLiteral: (node) => void found.push({ node, text: node.quasis.map((quasi) => quasi.value.cooked ?? "").join("{}") }),
	}).visit(program);
	return found
		.filter(({ node, text }) => !within(silent, node) && !isCode(plain(text)) && isRead(plain(text)))
		.map(({ node, text }) => ({ file, line: lineOf(node.start), text: plain(text), acts: within(acting, node) }))
		.sort((a, b) => a.line - b.line);
}
