import { expect, test } from "vitest";
import { DEMO_PASSWORD, passwordFault } from "@/features/people/server/passwords";

test.each([DEMO_PASSWORD, "Porch-Light", "porch light", "porchlight1", "P0rch-L1ght!", "porch_light_2026"])("%s is nobody’s own password", (password) => {
	expect(passwordFault(password, [])).toContain("demo");
});
