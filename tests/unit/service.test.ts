import { execFileSync, spawnSync } from "node:child_process";
import { existsSync, mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { beforeEach, describe, expect, test } from "vitest";
import { settingsIn, UNITS } from "../../scripts/service/units.mjs";

let below = "";
beforeEach(() => {
	below = mkdtempSync(join(tmpdir(), "service-"));
});
const service = (...args: string[]) => spawnSync(process.execPath, ["scripts/service.mjs", ...args], { encoding: "utf8" });
const unit = (name: string) => join(below, "etc/systemd/system", name);
const text = (name: string) => readFileSync(unit(name), "utf8");

describe("the service", () => {
	test("is written as systemd takes it, confined, with what an upgrade has to know", () => {
		const made = service("install", "--write", below, "--data", "/srv/porch lamp", "--port", "3456", "--keep", "7", "--user", "lamp");
		expect(made.stderr + made.stdout).toContain("nothing was started");
		const said = spawnSync("systemd-analyze", ["verify", ...UNITS.map(unit)], { encoding: "utf8" });
		expect(said.stderr.split("\n").filter((line) => line.includes("porch-lamp"))).toEqual([]);
		expect(said.status).toBe(0);
		const exposure = execFileSync("systemd-analyze", ["security", "--offline=true", "--threshold=25", unit("porch-lamp.service")], { encoding: "utf8" });
		expect(exposure).toContain("Overall exposure level for porch-lamp.service");
		expect(settingsIn(text("porch-lamp.service"), text("porch-lamp-backup.service"), text("porch-lamp.socket"))).toEqual({
			checkout: process.cwd(),
			user: "lamp",
			data: "/srv/porch lamp",
			port: 3456,
			backups: "/var/backups/porch-lamp",
			keep: 7,
		});
	});

	test("is started by the command line that it says, which is there", () => {
		service("install", "--write", below);
		for (const name of ["porch-lamp.service", "porch-lamp-backup.service"])
			for (const [, node = "", script = ""] of text(name).matchAll(/^ExecStart=(\S+) (\S+)/gm)) {
				expect(existsSync(node), node).toBe(true);
				expect(existsSync(script), script).toBe(true);
			}
	});

	test("keeps the settings that are there, and leaves them when it goes", () => {
		service("install", "--write", below);
		const settings = join(below, "etc/porch-lamp.env");
		writeFileSync(settings, "PORCH_LAMP_ADDRESS=https://lamp.firm.example\n");
		service("install", "--write", below);
		const gone = service("uninstall", "--write", below);
		expect(gone.stdout).toContain("are where they were");
		expect(readFileSync(settings, "utf8")).toContain("lamp.firm.example");
		expect(UNITS.filter((name) => existsSync(unit(name)))).toEqual([]);
	});

	test.each([
		[["install", "--port", "70000"], "--port is 70000; it must be a whole number from 1 to 65535."],
		[["install", "--keep", "none"], "--keep is none"],
		[["install", "--user", "Porch Lamp"], "can’t be the name of a user"],
		[["install", "--colour", "blue"], "npm run service -- install"],
		[["restart"], "npm run service -- install"],
		[[], "npm run service -- install"],
	])("refuses %j, and says why", (args, why) => {
		const refused = service(...args, "--write", below);
		expect(refused.status).toBe(1);
		expect(refused.stdout + refused.stderr).toContain(why);
		expect(existsSync(unit("porch-lamp.service"))).toBe(false);
	});
});
