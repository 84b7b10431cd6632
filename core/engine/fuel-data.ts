import { z } from 'zod';
import { fuels } from '../units/units';

/** What the engine burns and how much: what injectors are sized for. */
export const fuelDataSchema = z.object({
  fuel: z.enum(fuels),
  /** Rail pressure over the manifold's, kPa. */
  railKpa: z.number().min(20).max(2000),
  /** Brake specific fuel consumption, grams per kilowatt hour. */
  bsfc: z.number().min(150).max(1500),
  /** Power at the crank that the injectors must feed, kilowatts. */
  powerKw: z.number().min(1).max(3000),
  /** Share of the cycle an injector may be open at most. */
  maxDuty: z.number().min(0.3).max(1),
});
export type FuelData = z.infer<typeof fuelDataSchema>;
