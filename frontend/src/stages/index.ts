import type { ComponentType } from "react";
import type { Stage } from "../api/client";
import { FieldBookStage } from "./fieldbook";
import { FootingsStage } from "./footings";
import { FrameStage } from "./frame";
import { HandOverStage } from "./handover";
import { MaterialsStage } from "./materials";
import { ModulesStage } from "./modules";
import { RowsStage } from "./rows";
import { ScheduleStage } from "./schedule";
import { SiteStage } from "./site";
import { SunStage } from "./sun";
import type { StageProps } from "./StageLayout";
import { StakeoutStage } from "./stakeout";
import { StructureStage } from "./structure";
import { TrenchStage } from "./trench";
import { WiringStage } from "./wiring";

/** The stages in the order of the job, each with its screen. */
export const SCREENS: Record<Stage, ComponentType<StageProps>> = {
  site: SiteStage,
  sun: SunStage,
  rows: RowsStage,
  structure: StructureStage,
  footings: FootingsStage,
  frame: FrameStage,
  modules: ModulesStage,
  trench: TrenchStage,
  wiring: WiringStage,
  materials: MaterialsStage,
  stakeout: StakeoutStage,
  schedule: ScheduleStage,
  fieldbook: FieldBookStage,
  handover: HandOverStage,
};

export const STAGES = Object.keys(SCREENS) as Stage[];
