import type { ChainDocument } from '@saltline/contract'
import {
  type Answer,
  DB_PER_S_UNIT,
  decimals,
  formatDb,
  formatPower,
  ledgerOf,
  lossDb,
} from '@saltline/core'
import { useState } from 'react'
import { useUnits } from '../../platform/preferences.ts'
import { ledgerRanges } from '../../model/ledgerRanges.ts'
import { NoFigure } from '../../ui/NoFigure.tsx'
import { operatingPoint } from '../../model/answers.ts'
import { useRanges } from '../../compute/ranges.ts'
import { HowSure } from '../../panel/HowSure.tsx'
import { dbwText, radiatedOf } from '../../model/radiated.ts'
import { rangeText, wattsText } from '../../model/wattsText.ts'
import { Because } from './Because.tsx'
import { BandCurve } from './BandCurve.tsx'
import { Ledger } from './Ledger.tsx'
import { downText, factsOf, takersSentence } from '../../model/sentence.ts'
import { schoolsOf, totalWorking, workingOf } from './working.ts'
import { WorkingDialog } from './WorkingDialog.tsx'
import { useLead } from '../../editor/lead.ts'
import type { LensProps } from '../../editor/lens.ts'

/** How many watts reach the antenna, and who took the rest? */
export function BudgetLens(props: LensProps) {
  const { document, chain, answer, channel, selection, onSelect } = props
  const [shown, setShown] = useState<number | 'total' | null>(null)
  const ranges = useRanges()
  const sure = ranges.of(channel.id)
  return (
    <>
      <div className="grid grid-cols-1 two:grid-cols-[minmax(14rem,4fr)_minmax(20rem,9fr)] three:grid-cols-[minmax(300px,3fr)_minmax(590px,7fr)_minmax(330px,4fr)]">
        <div className="border-rule px-5 py-4 two:border-r">
          {answer.ok ? (
            <>
              <Sentence document={document} answer={answer} />
              <Figures answer={answer} document={document} channel={channel} />
            </>
          ) : (
            <NoFigure message={answer.message} />
          )}
          <div className="mt-3 flex flex-wrap items-baseline gap-x-5">
            {answer.ok && (
              <button type="button" className="link text-sm" onClick={() => setShown('total')}>
                working
              </button>
            )}
            <HowSure document={document} edit={props.edit} run={ranges} samples="2 000">
              {sure && <Because because={sure.because} />}
            </HowSure>
          </div>
        </div>
        <div className="border-rule px-5 py-3 three:border-r">
          {answer.ok ? (
            <Ledger
              document={document}
              ledger={ledgerOf(answer.solution)}
              spread={answer.spread}
              radiated={radiatedOf(
                document,
                channel,
                answer.solution.antennaW,
                answer.spread?.antennaW,
              )}
              selection={selection}
              onSelect={onSelect}
              onWorking={setShown}
            />
          ) : (
            <p className="text-muted">No ledger on this channel; others may have one.</p>
          )}
        </div>
        <div className="col-span-full h-[340px] border-rule px-5 py-3 two:border-t three:col-span-1 three:border-t-0">
          <BandCurve
            document={document}
            chain={chain}
            channel={channel}
            asTable={props.asTable}
            onToggleTable={props.onToggleTable}
          />
        </div>
      </div>
      {answer.ok && shown !== null && (
        <WorkingDialog
          working={
            shown === 'total'
              ? totalWorking(answer)
              : workingOf(document, answer.solution, shown, answer.spread)
          }
          schools={
            shown === 'total' || shown === -1
              ? schoolsOf(chain, operatingPoint(document.transmitter, channel))
              : undefined
          }
          onClose={() => setShown(null)}
        />
      )}
    </>
  )
}

function Sentence({ document, answer }: { document: ChainDocument; answer: Answer }) {
  const { power } = useUnits()
  const { solution, spread } = answer
  const ledger = ledgerOf(solution)
  const facts = factsOf(document, solution, power)
  const lead = useLead()
  return (
    <>
      {facts.map(({ stage, text }) => (
        <p key={text} className="mb-3 border-l-4 border-danger pl-3 text-danger" data-fact={stage}>
          ▲ {text}
        </p>
      ))}
      {lead(
        <p role="status" className="text-[18px] leading-snug">
          Of {formatPower(ledger.settingW, power)},{' '}
          <b>{wattsText(solution.antennaW, power, spread?.antennaW)}</b> reaches the antenna (
          {downText(ledger.lossDb, spread ? ledgerRanges(ledger, spread).total.lossDb : undefined)}
          ). {takersSentence(document, solution, ledger, spread)}
        </p>,
      )}
    </>
  )
}

/** The three figures an operator remembers, and what is radiated where the antenna's gain is known. */
function Figures({
  answer,
  document,
  channel,
}: { answer: Answer } & Pick<LensProps, 'document' | 'channel'>) {
  const radiated = radiatedOf(document, channel, answer.solution.antennaW, answer.spread?.antennaW)
  const { power } = useUnits()
  const { solution, spread } = answer
  const down = lossDb(solution.settingW, solution.antennaW)
  const range = spread && {
    low: lossDb(solution.settingW, spread.antennaW.high),
    high: lossDb(solution.settingW, spread.antennaW.low),
  }
  const units = (db: number) =>
    `${Math.abs(db) < 0.03 ? '' : db < 0 ? '+' : '−'}${decimals(Math.abs(db) / DB_PER_S_UNIT, 1)}\u00a0S‑unit${Math.abs(db) >= 8.7 ? 's' : ''}`
  return (
    <div className="mt-4 grid grid-cols-[repeat(auto-fit,minmax(7.5rem,1fr))] gap-x-4 gap-y-3 border-t border-rule pt-3 first:mt-0 first:border-t-0 first:pt-0">
      {bigFigure('at the antenna', wattsText(solution.antennaW, power, spread?.antennaW))}
      {down < 0
        ? bigFigure('gained on the way', formatDb(-down))
        : bigFigure('lost on the way', rangeText(down, range ?? undefined, formatDb))}
      {radiated &&
        bigFigure(
          `${radiated.kind}, ${dbwText(radiated.watts)}`,
          wattsText(radiated.watts, power, radiated.range),
        )}
      {bigFigure('at the far end', rangeText(down, range ?? undefined, units))}
    </div>
  )
}

function bigFigure(name: string, text: string) {
  const cut = text.lastIndexOf('\u00a0')
  const [number, unit] = cut < 0 ? [text, ''] : [text.slice(0, cut), text.slice(cut + 1)]
  return (
    <div>
      <p className="text-sm text-muted">{name}</p>
      <p className="font-bold whitespace-nowrap">
        <span
          className={number.length > 10 ? 'text-base' : number.length > 6 ? 'text-xl' : 'text-2xl'}
        >
          {number}
        </span>{' '}
        <span className="text-sm font-normal text-muted">{unit}</span>
      </p>
    </div>
  )
}
