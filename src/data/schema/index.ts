/** Every table; a capability's tables are in a file of their own. */
export * from "./accounts";
export * from "./calendars";
export * from "./changes";
export * from "./columns";
export * from "./deals";
export * from "./evidence";
export * from "./import";
export * from "./organisation";
export * from "./people";
export * from "./period";
export * from "./reaching";
export * from "./record";
export * from "./sheet";
export * from "./tasks";
export * from "./views";
export * from "./webhooks";
export * from "./weekly";
