/** Values that change outside of React: whoever reads one is rendered when it is another, and nobody else. */
import { useSyncExternalStore } from 'react'

export interface Source<T> {
  get: () => T
  subscribe: (listener: () => void) => () => void
}

export class Store<T> implements Source<T> {
  private readonly listeners = new Set<() => void>()

  constructor(private value: T) {}

  get = (): T => this.value

  set = (value: T): void => {
    this.value = value
    for (const listener of this.listeners) listener()
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener)
    return () => this.listeners.delete(listener)
  }
}

/** What is made of a value, made once for each. */
export function derive<T, U>({ get, subscribe }: Source<T>, make: (value: T) => U): Source<U> {
  let known: { of: T; is: U } | null = null
  return {
    subscribe,
    get: () => {
      const of = get()
      if (known?.of !== of) known = { of, is: make(of) }
      return known.is
    },
  }
}

export const useSource = <T>({ subscribe, get }: Source<T>): T =>
  useSyncExternalStore(subscribe, get)
