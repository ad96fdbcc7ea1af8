"use client";
import { useSearchParams } from "next/navigation";

/** Takes a table away as a file, as the address looks at it. */
export function TakeAway({ table, more = {} }: { table: string; more?: Readonly<Record<string, string>> }) {
	const params = useSearchParams();
	const address = (form: "csv" | "xlsx") => {
		const query = new URLSearchParams(params);
		for (const [name, value] of Object.entries(more)) query.set(name, value);
		query.set("form", form);
		return `/table/${table}?${query}`;
	};
	return (
		<span className="tiny second no-print text-nowrap">
			Take it away as{" "}
			<a href={address("csv")} download>
				CSV
			</a>{" "}
			or{" "}
			<a href={address("xlsx")} download>
				XLSX
			</a>
		</span>
	);
}
