import { column } from "./column";

export const products = column({
	key: "products",
	label: "Products",
	kind: "text",
	value: (row) => row.products.join(", ") || null,
	width: "minmax(7rem, 1fr)",
	least: 120,
	// Under its first product, so that each deal is in one group and subtotals add up.
	grouping: { key: "product", label: "product", value: (row) => row.products[0] ?? "No product" },
});
