/**
 * Keeps what is typed, chosen and pressed before the page has come alive, and hands it on as soon as what it was meant for
 * has: on a slow line minutes can lie between the two, and without this a file that was chosen is shown as chosen and never
 * read, and a form is sent to nowhere. It is written into the page as text, so it may use nothing from outside.
 *
 * What the page no longer shows by then isn’t pressed; of several presses of a button the last one counts.
 */
export function keepEarlyInput(): void {
	// Long: it goes to the page as one text.
	const EVERY = 50;
	type Early = { readonly on: HTMLElement; readonly kind: string; readonly value?: string; readonly checked?: boolean };
	let early: Early[] = [];
	let timer: ReturnType<typeof setInterval> | undefined;

	/** The framework marks an element when it takes it over. */
	const alive = (element: Element) => Object.keys(element).some((key) => key.startsWith("__reactProps"));
	const again = (element: Element, kind: string) => element.dispatchEvent(new Event(kind, { bubbles: true, cancelable: true }));

	function act({ on, kind, value, checked }: Early): void {
		on.removeAttribute("aria-busy");
		if (kind === "submit") (on as HTMLFormElement).requestSubmit();
		else if (kind === "click") on.click();
		else if (on instanceof HTMLInputElement && (on.type === "checkbox" || on.type === "radio")) {
			// A press turns it, so it is turned back first.
			on.checked = !checked;
			on.click();
		} else if (on instanceof HTMLInputElement && on.type === "file") again(on, "change");
		else if (on instanceof HTMLSelectElement) {
			on.value = value ?? "";
			again(on, "change");
		} else if (value !== undefined) {
			const field = on as HTMLInputElement;
			// Set by its own property the framework would know the value already, and tell nobody of it.
			field.value = `${value}x`;
			Object.getOwnPropertyDescriptor(Object.getPrototypeOf(field), "value")?.set?.call(field, value);
			again(field, "input");
		}
	}

	function look(): void {
		early = early.filter((one) => one.on.isConnected);
		for (let first = early[0]; first && alive(first.on); first = early[0]) {
			early.shift();
			act(first);
		}
		if (early.length) return;
		clearInterval(timer);
		timer = undefined;
	}

	function keep(one: Early): void {
		early = [...early.filter(({ on, kind }) => on !== one.on || kind !== one.kind), one];
		one.on.setAttribute("aria-busy", "true");
		timer ??= setInterval(look, EVERY);
	}

	for (const kind of ["input", "change"])
		addEventListener(
			kind,
			({ target }) => {
				if (!(target instanceof HTMLElement) || alive(target) || !("value" in target)) return;
				keep({ on: target, kind: "value", value: String(target.value), checked: (target as HTMLInputElement).checked });
			},
			true,
		);
	addEventListener(
		"submit",
		(event) => {
			const form = event.target as HTMLFormElement;
			// One with an address of its own is sent by the browser, alive or not.
			if (alive(form) || form.hasAttribute("action")) return;
			event.preventDefault();
			keep({ on: form, kind: "submit" });
		},
		true,
	);
	addEventListener(
		"click",
		({ target }) => {
			const button = target instanceof Element ? target.closest<HTMLButtonElement>("button[type=button]") : null;
			if (!button || alive(button)) return;
			// What was pressed before is not what is wanted now.
			early = early.filter(({ kind }) => kind !== "click");
			keep({ on: button, kind: "click" });
		},
		true,
	);
}
