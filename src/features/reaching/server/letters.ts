import { escaped } from "@/core/words/escaped";
import { address } from "@/platform/address";

/** A part of a letter: a heading and its lines, each with the address it leads to. */
export interface Part {
	readonly heading: string;
	readonly lines: readonly { readonly words: string; readonly path?: string }[];
}

export interface Written {
	readonly subject: string;
	readonly text: string;
	readonly html: string;
}

const WISHES = "/setup?place=reaching";

/** Writes a letter: the same in plain text and in HTML, what else it brings, each line with where it leads, and how to have fewer. */
export function written(subject: string, intro: string, parts: readonly Part[], body?: { readonly text: string; readonly html: string }): Written {
	const shown = parts.filter(({ lines }) => lines.length);
	const text = [
		intro,
		body?.text ?? "",
		...shown.map(({ heading, lines }) =>
			[heading, ...lines.map(({ words, path }) => `- ${words}${path ? `\n  ${address(path)}` : ""}`)].filter(Boolean).join("\n"),
		),
		`Change which mails you get: ${address(WISHES)}`,
	]
		.filter(Boolean)
		.join("\n\n");
	const line = ({ words, path }: Part["lines"][number]) =>
		`<li style="margin:0 0 6px">${path ? `<a href="${escaped(address(path))}" style="color:#2b3a67">${escaped(words)}</a>` : escaped(words)}</li>`;
	const html = `<!doctype html><html lang="en"><body style="margin:0;background:#faf7f1;color:#232a3d;font-family:sans-serif;font-size:15px;line-height:1.45"><div style="max-width:640px;margin:0 auto;padding:24px"><p style="font-size:17px">${escaped(intro).replaceAll("\n", "<br>")}</p>${body?.html ?? ""}${shown
		.map(
			({ heading, lines }) =>
				`${heading ? `<h2 style="font-size:16px;margin:20px 0 6px">${escaped(heading)}</h2>` : ""}<ul style="padding-left:18px;margin:0">${lines.map(line).join("")}</ul>`,
		)
		.join(
			"",
		)}<p style="margin-top:28px;color:#5a6275;font-size:13px"><a href="${escaped(address(WISHES))}" style="color:#5a6275">Change which mails you get</a></p></div></body></html>`;
	// A header is one line, whatever somebody has written into a title.
	return { subject: subject.replace(/\s+/g, " ").trim().slice(0, 200), text, html };
}

/** A letter that tells of one happening. */
export const newsMail = ({ words, path, kind, parts = [] }: { words: string; path: string; kind: string; parts?: readonly Part[] }): Written =>
	written(words, words, [...parts, { heading: "", lines: [{ words: "Open", path }, { words: `You get this mail because you asked to hear when ${kind}.` }] }]);

/** A letter that tells of several happenings of a kind. `apart`: they are about several deals, so it can't be answered. */
export const severalMail = (
	subject: string,
	found: readonly { readonly words: string; readonly path: string; readonly parts?: readonly Part[] }[],
	kind: string,
	apart: boolean,
): Written =>
	written(subject, `${subject}.`, [
		{ heading: "", lines: found.map(({ words, path }) => ({ words, path })) },
		...found.flatMap(({ parts = [] }) => parts),
		{
			heading: "",
			lines: [
				...(apart ? [{ words: "This mail is about several deals, so an answer to it isn’t stored. Open the deal you mean and write there." }] : []),
				{ words: `You get this mail because you asked to hear when ${kind}.` },
			],
		},
	]);
