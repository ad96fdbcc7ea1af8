import { meaningOf } from "../terms";

/** A head of a column: its words; figures stand at the right. */
export type Head = string | { readonly label: string; readonly num: boolean };

/** The heads of a plain table. */
export function Heads({ of }: { of: readonly Head[] }) {
	return (
		<thead>
			<tr>
				{of.map((head, i) => {
					const { label, num } = typeof head === "string" ? { label: head, num: false } : head;
					return (
						<th key={`${label} ${i}`} scope="col" className={num ? "num" : ""} title={meaningOf(label)}>
							{label}
						</th>
					);
				})}
			</tr>
		</thead>
	);
}

/** The head of a column of figures. */
export const num = (words: string): Head => ({ label: words, num: true });
