export { inboundMailAnswer as POST } from "@/app/server/inbound";
