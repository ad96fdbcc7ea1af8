import { ENDPOINTS } from "@/features/contract";
import { serve } from "@/platform/http/serve";

export const GET = serve(ENDPOINTS.listKeys);
export const POST = serve(ENDPOINTS.createKey);
