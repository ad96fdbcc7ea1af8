import { ENDPOINTS } from "@/app/server/contract";
import { serve } from "@/app/server/serve";

export const PATCH = serve(ENDPOINTS.changeTask);
