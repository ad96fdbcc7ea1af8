import { startStandIn } from "./provider";

// A company’s sign-in to try the program with, on this machine alone: it believes what anyone says of themselves, so it is never
// started but by its own command.
const { PORCH_LAMP_ADDRESS = "http://127.0.0.1:3000", PROVIDER_PORT = "3900" } = process.env;
const person = (name: string, email: string, ...groups: string[]) => ({ name, email, groups });
const { issuer, clientId, clientSecret, people } = await startStandIn(
	PORCH_LAMP_ADDRESS.replace(/\/+$/, ""),
	new Map([
		["arno", person("Arno Vinter", "arno@emberwick.example", "Operations")],
		["helena", person("Helena Marsh", "helena@emberwick.example", "Sales heads")],
		["ruth", person("Ruth Calloway", "ruth@emberwick.example", "Sales heads North")],
		["ines", person("Ines Valdoro", "ines@emberwick.example", "Sales North")],
		["nova", person("Nova Lindqvist", "nova@emberwick.example", "Sales North", "All staff")],
		["otto", person("Otto Brandt", "otto@emberwick.example", "Workshop")],
	]),
	Number(PROVIDER_PORT),
);
process.stdout.write(`A company’s sign-in to try with. Enter in Setup, Company sign-in:
  Issuer         ${issuer}
  Client id      ${clientId}
  Client secret  ${clientSecret}
  Claim          groups
It sends people back to ${PORCH_LAMP_ADDRESS}, which has to run with PORCH_LAMP_HOOKS_INSIDE=on.
Logins, each with any password: ${[...people.keys()].join(", ")}.  Ctrl-C stops it.
`);
process.on("SIGINT", () => process.exit(0));
