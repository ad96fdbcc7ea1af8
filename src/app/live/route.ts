export { liveAnswer as GET } from "@/app/server/live";
