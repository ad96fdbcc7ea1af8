import { join } from "node:path";

// What is written for systemd (systemd.unit(5), .service(5), .socket(5), .timer(5), .exec(5)).

/** What a service of this name needs to know. `checkout` is where the program lies, `data` and `backups` where it writes. */
export const UNITS = ["porch-lamp.socket", "porch-lamp.service", "porch-lamp-backup.service", "porch-lamp-backup.timer"];

/** Settings that the company makes itself; never written over. */
export const SETTINGS = "/etc/porch-lamp.env";

/** Nothing of the machine but what it writes to; V8 makes code while it runs, so memory may be written and run. */
const CONFINED = `NoNewPrivileges=yes
CapabilityBoundingSet=
AmbientCapabilities=
ProtectSystem=strict
ProtectHome=read-only
PrivateTmp=yes
PrivateDevices=yes
ProtectClock=yes
ProtectControlGroups=yes
ProtectHostname=yes
ProtectKernelLogs=yes
ProtectKernelModules=yes
ProtectKernelTunables=yes
LockPersonality=yes
RestrictAddressFamilies=AF_INET AF_INET6 AF_UNIX
RestrictNamespaces=yes
RestrictRealtime=yes
RestrictSUIDSGID=yes
RemoveIPC=yes
SystemCallArchitectures=native
SystemCallFilter=@system-service
UMask=0077`;

/** Each unit’s text by its name. */
export function unitsFor({ checkout, node, user, data, backups, keep, port }) {
	const run = (script, ...args) => [node, join(checkout, "scripts", script), ...args].map(quoted).join(" ");
	const common = `User=${user}
Group=${user}
WorkingDirectory=${checkout}
Environment=${quoted(`PORCH_LAMP_DATA=${data}`)}
Environment=PORCH_LAMP_DEMO=off
EnvironmentFile=-${SETTINGS}
ReadWritePaths=${quoted(data)} ${quoted(backups)} ${quoted(`-${join(checkout, "node_modules", ".cache")}`)} ${quoted(`-${join(checkout, ".next", "cache")}`)}
${CONFINED}`;
	return {
		"porch-lamp.socket": `[Unit]
Description=Where Porch Lamp is reached

[Socket]
ListenStream=127.0.0.1:${port}
Backlog=4096
NoDelay=yes

[Install]
WantedBy=sockets.target
`,
		"porch-lamp.service": `[Unit]
Description=Porch Lamp
Requires=porch-lamp.socket
Wants=network-online.target
After=network-online.target porch-lamp.socket

[Service]
Type=exec
ExecStart=${run("start.mjs")}
Environment=PORT=${port}
Restart=always
RestartSec=2
TimeoutStopSec=90
KillMode=mixed
LimitNOFILE=65536
StandardOutput=journal
StandardError=journal
SyslogIdentifier=porch-lamp
${common}

[Install]
WantedBy=multi-user.target
`,
		"porch-lamp-backup.service": `[Unit]
Description=Backup of Porch Lamp, and the rehearsal of its restore
After=porch-lamp.service

[Service]
Type=oneshot
ExecStart=${run("backup.mjs", "backup", backups, "--keep", String(keep))}
ExecStart=${run("backup.mjs", "restore", backups, "--rehearse")}
Nice=10
SyslogIdentifier=porch-lamp-backup
${common}
`,
		"porch-lamp-backup.timer": `[Unit]
Description=Each night a backup of Porch Lamp

[Timer]
OnCalendar=*-*-* 02:30
RandomizedDelaySec=15min
Persistent=yes

[Install]
WantedBy=timers.target
`,
	};
}

/** A word of a command line or a setting, as systemd reads it. */
const quoted = (word) => (/^[\w@:,./=-]+$/.test(word) ? word : `"${word.replace(/["\\]/g, "\\$&").replace(/%/g, "%%").replace(/\$/g, "$$$$")}"`);

/** What a unit that was written says of itself, so that an upgrade finds what it has to do with. */
export function settingsIn(service, backup, socket) {
	const line = (text, pattern) => pattern.exec(text)?.[1] ?? null;
	return {
		checkout: line(service, /^WorkingDirectory=(.+)$/m),
		user: line(service, /^User=(.+)$/m),
		data: line(service, /^Environment="?PORCH_LAMP_DATA=([^"\n]+)"?$/m),
		port: Number(line(socket, /^ListenStream=127\.0\.0\.1:(\d+)$/m)),
		backups: line(backup, /backup\.mjs"? backup "?([^"\n]+?)"? --keep/),
		keep: Number(line(backup, /--keep (\d+)/)),
	};
}
