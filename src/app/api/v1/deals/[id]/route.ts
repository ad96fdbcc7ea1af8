import { ENDPOINTS } from "@/app/server/contract";
import { serve } from "@/app/server/serve";

export const GET = serve(ENDPOINTS.readDeal);
export const PATCH = serve(ENDPOINTS.changeDeal);
