import { expose } from "comlink";
import { RiverModel } from "./riverModel";

expose(new RiverModel());
