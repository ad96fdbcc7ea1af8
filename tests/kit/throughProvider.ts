/** A browser without a screen, for a provider's own pages: it keeps cookies, follows redirects, and sends forms. */
export class Walker {
	readonly #cookies = new Map<string, string>();

	/** Goes to an address and on, until one of the program's own comes, which isn't opened: its address is given. */
	async go(url: string, login: string, home: string): Promise<string> {
		let at = url;
		let form: URLSearchParams | null = null;
		for (let steps = 0; steps < 20; steps++) {
			if (at.startsWith(home)) return at;
			const cookie = [...this.#cookies].map(([name, value]) => `${name}=${value}`).join("; ");
			const answer = await fetch(at, { method: form ? "POST" : "GET", redirect: "manual", headers: { cookie }, ...(form ? { body: form } : {}) });
			for (const one of answer.headers.getSetCookie()) {
				const [, name = "", value = ""] = /^([^=]+)=([^;]*)/.exec(one) ?? [];
				if (value) this.#cookies.set(name, value);
				else this.#cookies.delete(name);
			}
			form = null;
			const location = answer.headers.get("location");
			if (location) {
				at = new URL(location, at).href;
				continue;
			}
			const page = await answer.text();
			const action = /<form[^>]*action="([^"]+)"/.exec(page)?.[1];
			if (!action) throw new Error(`The provider stops at ${at}: ${answer.status} ${page.slice(0, 300)}`);
			const hidden = [...page.matchAll(/<input[^>]*type="hidden"[^>]*name="([^"]+)"[^>]*value="([^"]*)"/g)].map(([, name = "", value = ""]) => [name, value]);
			form = new URLSearchParams([
				...hidden,
				...(page.includes('name="login"')
					? [
							["login", login],
							["password", "x"],
						]
					: []),
			] as [string, string][]);
			at = new URL(action, at).href;
		}
		throw new Error("The provider leads nowhere.");
	}
}
