"use client";
import { useEffect, useState } from "react";

/** Links by which people set their passwords, to be sent to them. They are shown this once. */
export function PasswordLinks({ links }: { links: readonly { readonly name: string; readonly path: string }[] }) {
	const [origin, setOrigin] = useState("");
	useEffect(() => setOrigin(location.origin), []);
	return (
		<>
			<p className="second small-text">Send each to whom it is for, by a way you trust. It works once, within a week, and is shown only now.</p>
			<dl className="mb-0">
				{links.map(({ name, path }) => (
					<div key={path} className="mb-2">
						<dt>{name}</dt>
						<dd className="mb-0">
							<code className="user-select-all key-token">{`${origin}${path}`}</code>
						</dd>
					</div>
				))}
			</dl>
		</>
	);
}
