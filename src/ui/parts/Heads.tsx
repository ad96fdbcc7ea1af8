import { meaningOf } from "../terms";

/** A head of a column: its words; figures stand at the right. */
export type Head = string | { readonly words: string; readonly num: boolean };

/** The heads of a plain table. */
export function Heads({ of }: { of: readonly Head[] }) {
	return (
		<thead>
			<tr>
				{of.map((head, i) => {
					const { words, num } = typeof head === "string" ? { words: head, num: false } : head;
					return (
						<th key={`${words} ${i}`} scope="col" className={num ? "num" : ""} title={meaningOf(words)}>
							{words}
						</th>
					);
				})}
			</tr>
		</thead>
	);
}

/** The head of a column of figures. */
export const num = (words: string): Head => ({ words, num: true });
