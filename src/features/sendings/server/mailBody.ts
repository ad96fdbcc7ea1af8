import { escaped } from "@/core/words/escaped";
import { drawPng } from "@/formats/picture/png";
import { address } from "@/platform/address";
import type { Told } from "@/platform/told";
import { tableMail } from "./tableMail";

/** A picture that lies in a mail, named by its content id (RFC 2392). */
interface MailPicture {
	readonly name: string;
	readonly type: string;
	readonly contentId: string;
	readonly bytes: Uint8Array;
}

/**
 * What a mail tells, part by part: as plain text, which says all that the pictures do, and as HTML with its pictures.
 *
 * @param seen an address as of the day it is sent
 */
export async function mailBody(
	parts: readonly Told[],
	seen: (path: string) => string,
): Promise<{ body: { text: string; html: string }; pictures: MailPicture[] }> {
	const pictures: MailPicture[] = [];
	const texts: string[] = [];
	const htmls: string[] = [];
	for (const { title, says, picture, content, brief, path } of parts) {
		const table = content?.rows.length ? tableMail({ ...content, ...brief }) : null;
		const link = path ? address(seen(path)) : null;
		texts.push([title, ...says, picture?.alt, table?.text, link].filter(Boolean).join("\n"));
		const heading = link ? `<a href="${escaped(link)}" style="color:#2b3a67">${escaped(title)}</a>` : escaped(title);
		htmls.push(
			title ? `<h2 style="font-size:16px;margin:24px 0 6px">${heading}</h2>` : "",
			...says.map((words) => `<p style="margin:6px 0">${escaped(words)}</p>`),
		);
		if (picture) {
			const { bytes, width, height } = await drawPng(picture);
			const contentId = `picture${pictures.length + 1}@porch-lamp.example`;
			pictures.push({ name: `picture ${pictures.length + 1}.png`, type: "image/png", contentId, bytes });
			htmls.push(
				`<p style="margin:6px 0"><img src="cid:${contentId}" width="${width}" height="${height}" alt="${escaped(picture.alt)}" style="max-width:100%;height:auto"></p>`,
			);
		}
		htmls.push(table?.html ?? "");
	}
	return { body: { text: texts.filter(Boolean).join("\n\n"), html: htmls.join("") }, pictures };
}
