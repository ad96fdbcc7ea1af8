"use client";
import { useSearchParams } from "next/navigation";

/** Takes a table away as a file, as the address looks at it. */
export function TakeAway({ table }: { table: string }) {
	const params = useSearchParams();
	const address = (form: "csv" | "xlsx") => {
		const query = new URLSearchParams(params);
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
