import { describe, expect, test } from "vitest";
import { meantCurrency, takeCurrency } from "./currencyMarks";

const none = () => false;
const rated = (...codes: string[]) => ({ has: (code: string) => codes.includes(code) });

describe("what stands beside an amount", () => {
	test.each([
		["US$", "USD"],
		["CA$", "CAD"],
		["C$", "CAD"],
		["AU$", "AUD"],
		["A$", "AUD"],
		["NZ$", "NZD"],
		["HK$", "HKD"],
		["MX$", "MXN"],
		["S$", "SGD"],
		["R$", "BRL"],
		["SFr", "CHF"],
		["Fr", "CHF"],
		["lei", "RON"],
		["zł", "PLN"],
		["zl", "PLN"],
		["Kč", "CZK"],
		["Ft", "HUF"],
		["лв", "BGN"],
		["€", "EUR"],
		["£", "GBP"],
		["₹", "INR"],
		["₺", "TRY"],
		["₽", "RUB"],
		["₩", "KRW"],
		["₪", "ILS"],
		["₴", "UAH"],
		["฿", "THB"],
		["₫", "VND"],
		["euro", "EUR"],
		["Euros", "EUR"],
		["gbp", "GBP"],
		["JPY", "JPY"],
	])("%s means %s, before and after", (mark, code) => {
		for (const text of [`${mark} 1200`, `1200 ${mark}`, `${mark.toUpperCase()} 1200`]) {
			const { rest, codes } = takeCurrency(text, none);
			expect([rest.trim(), ...codes]).toEqual(["1200", code]);
		}
	});
	test("signs that several share mean all of them", () => {
		expect(takeCurrency("5 kr", none).codes).toEqual(["SEK", "NOK", "DKK", "ISK"]);
		expect(takeCurrency("¥5", none).codes).toEqual(["JPY", "CNY"]);
		expect(takeCurrency("$5", none).codes).toEqual(["USD", "CAD", "AUD", "NZD", "HKD", "SGD", "MXN"]);
	});
	test("a mark of letters is a word of its own, with or without a point", () => {
		expect(takeCurrency("1200 kr.", none)).toMatchObject({ rest: "1200  " });
		for (const text of ["5 krona", "5 left", "xkr 5", "5 xzł"]) expect(takeCurrency(text, none)).toEqual({ rest: text, codes: [] });
	});
	test("words that multiply, and such as no currency has, are left", () => {
		expect(takeCurrency("5 mio", (word) => word === "mio")).toEqual({ rest: "5 mio", codes: [] });
		for (const text of ["5 abc", "5 eurx", "5 usdx", "5 us"]) expect(takeCurrency(text, none).codes).toEqual([]);
		// A code that multiplies too is no currency here.
		expect(takeCurrency("5 EUR", (word) => word === "eur").codes).toEqual([]);
	});
});

test("of several the file’s own is meant, else the one that has a rate, else dollars and yen", () => {
	expect(meantCurrency([], "EUR", rated())).toBe("EUR");
	expect(meantCurrency(["USD", "CAD"], "CAD", rated("USD"))).toBe("CAD");
	expect(meantCurrency(["SEK", "NOK"], "EUR", rated("NOK"))).toBe("NOK");
	expect(meantCurrency(["GBP"], "EUR", rated())).toBe("GBP");
	expect(meantCurrency(["USD", "CAD"], "EUR", rated("USD", "CAD"))).toBe("USD");
	expect(meantCurrency(["USD", "CAD"], "EUR", rated())).toBe("USD");
	expect(meantCurrency(["JPY", "CNY"], "EUR", rated())).toBe("JPY");
	expect(meantCurrency(["SEK", "NOK"], "EUR", rated("SEK", "NOK"))).toBeNull();
	expect(meantCurrency(["SEK", "NOK"], "EUR", rated())).toBeNull();
});
