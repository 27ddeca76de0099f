/** Steps that many sheets begin or end with. */
import type { RunStep } from '../sheet.ts'

export const LOCAL_RULES: RunStep = {
  id: 'rules',
  kind: 'caution',
  title: 'Local rules and licensed practice come first',
  text: 'Nobody touches antenna, feed line or an open connector while the key is down: RF burns. Never key without a load.',
}

export const HIGH_VOLTAGE: RunStep = {
  id: 'high-voltage',
  kind: 'caution',
  title: 'High voltage inside the amplifier',
  text: 'It kills, also after it is switched off. Covers stay on; everything here is done from the front panel. Work inside is for qualified people.',
}

export const HOT_LOAD: RunStep = {
  id: 'hot-load',
  kind: 'caution',
  title: 'The dummy load gets hot',
  text: 'Hot enough to burn, oil included. Ventilate, keep to its times, let it cool before it is touched.',
}

export const CONNECTED: RunStep = {
  id: 'connected',
  kind: 'check',
  title: 'Antenna connected, connectors tight',
  text: 'The right antenna port, the right band on tuner and switches.',
}

export const CLEAR: RunStep = {
  id: 'clear',
  kind: 'check',
  title: 'Frequency clear, identified',
  text: 'Listen first. Ask if it is in use, and give your identification as your rules say.',
}

export const VOICE_BACK: RunStep = {
  id: 'voice',
  kind: 'do',
  title: 'Back to the mode that is used, power as set',
  text: 'A power set in a menu may take seconds to appear: wait and look.',
}

export const POWER_DOWN: RunStep = {
  id: 'down',
  kind: 'do',
  title: 'Power down before anything is disconnected',
}
