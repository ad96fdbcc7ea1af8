/** A mail as its page shows it. */
export interface Mail {
	readonly id: string;
	readonly messageId: string;
	readonly at: string;
	readonly from: string;
	readonly to: string;
	readonly replyTo: string;
	readonly subject: string;
	readonly text: string;
	readonly html: string;
}

const safe = (text: string) => text.replaceAll("&", "&amp;").replaceAll("<", "&lt;").replaceAll(">", "&gt;").replaceAll('"', "&quot;");
const links = (text: string) => safe(text).replace(/https?:\/\/[^\s<]+/g, (address) => `<a href="${address}">${address}</a>`);

const STYLE = `:root{color-scheme:light dark}body{font:15px/1.5 sans-serif;margin:0;background:light-dark(#faf7f1,#151a28);color:light-dark(#232a3d,#f0ebe1)}main{max-width:60rem;margin:0 auto;padding:1.25rem}a{color:light-dark(#2b3a67,#a9b7e8)}table{border-collapse:collapse;width:100%}td,th{text-align:left;padding:.35rem .6rem;border-bottom:1px solid light-dark(#e6dfd2,#2e364c);vertical-align:top}pre{white-space:pre-wrap;background:light-dark(#fffdf9,#1c2233);padding:1rem;border:1px solid light-dark(#e6dfd2,#2e364c)}iframe{width:100%;height:24rem;border:1px solid light-dark(#e6dfd2,#2e364c);background:#fff}textarea,.write input{width:100%;box-sizing:border-box;font:inherit}.write{display:grid;gap:.8rem;max-width:36rem}.write button{justify-self:start}.stands{margin:0;padding:.5rem 1.25rem;background:light-dark(#2b3a67,#26304f);color:#fff}.said{padding:.5rem .8rem;background:light-dark(#e0efed,#1f3a38)}`;

const page = (title: string, body: string) =>
	`<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${safe(title)}</title><style>${STYLE}</style></head><body><p class="stands" role="note">This stands in for a mail server and for a receiver of webhooks, on this machine alone. Nothing here has reached anybody.</p><main>${body}</main></body></html>`;

/** The mails that came, or those for one address. */
export function listPage(base: string, mails: readonly Mail[], to: string, said = ""): string {
	const shown = mails.filter((mail) => !to || mail.to === to);
	const rows = shown
		.map(
			(mail) =>
				`<tr><td>${safe(mail.at.slice(0, 16).replace("T", " "))}</td><td><a href="${base}/?to=${encodeURIComponent(mail.to)}">${safe(mail.to)}</a></td><td><a href="${base}/mail/${mail.id}">${safe(mail.subject)}</a></td></tr>`,
		)
		.join("");
	const head = to ? `<p>Mails for ${safe(to)}. <a href="${base}/">All mails</a></p>` : `<p>Everything the program has sent, kept on this machine.</p>`;
	return page(
		"Mailbox",
		`<h1>Mailbox</h1><p><a href="${base}/write">Write a mail</a></p>${said ? `<p class="said">${safe(said)}</p>` : ""}${head}${rows ? `<table><thead><tr><th>Came</th><th>For</th><th>Subject</th></tr></thead><tbody>${rows}</tbody></table>` : "<p>Nothing has come yet.</p>"}`,
	);
}

/** A mail to be written to the program, as another system or a customer would, with what is attached to it. */
export const writePage = (base: string, to: string, said = ""): string =>
	page(
		"Write a mail",
		`<p><a href="${base}/">All mails</a></p><h1>Write a mail</h1>${said ? `<p class="said" role="status">${safe(said)}</p>` : ""}<form class="write" method="post" enctype="multipart/form-data" action="${base}/write"><label>From <input type="email" name="from" required></label><label>To <input name="to" required value="${safe(to)}"></label><label>Subject <input name="subject"></label><label>Text <textarea name="text" rows="4"></textarea></label><label>Files <input type="file" name="files" multiple></label><button>Send</button></form>`,
	);

/** One mail as text and as HTML, with a place to answer it. */
export const mailPage = (base: string, mail: Mail, said = ""): string =>
	page(
		mail.subject,
		`<p><a href="${base}/">All mails</a></p><h1>${safe(mail.subject)}</h1>${said ? `<p class="said" role="status">${safe(said)}</p>` : ""}<p>From ${safe(mail.from)} to ${safe(mail.to)}, ${safe(mail.at.slice(0, 16).replace("T", " "))}</p><h2>As text</h2><pre>${links(mail.text)}</pre><h2>As HTML</h2><iframe sandbox title="The mail as HTML" src="${base}/mail/${mail.id}/html"></iframe><h2>Answer</h2><form method="post" action="${base}/mail/${mail.id}/answer"><textarea name="text" rows="4" aria-label="Answer"></textarea><p><button>Answer as ${safe(mail.to)}</button></p></form>`,
	);

/** A webhook that came. */
export interface Call {
	readonly at: string;
	readonly headers: readonly string[];
	readonly body: string;
}

/** The webhooks that came since this was started. */
export const hooksPage = (calls: readonly Call[]): string =>
	page(
		"Webhooks",
		`<h1>Webhooks</h1>${calls.map(({ at, headers, body }) => `<p>${safe(at.slice(0, 19).replace("T", " "))}</p><pre>${safe([...headers, "", body].join("\n"))}</pre>`).join("") || "<p>None has come yet.</p>"}`,
	);
