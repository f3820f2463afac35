import { Tab, TabGroup, TabList, TabPanel, TabPanels } from '@headlessui/react'
import { useState, type ReactNode } from 'react'

/** The controls of a card that has more of them than lie side by side. */
export function Tabs({ tabs, first = 0 }: { tabs: readonly (readonly [name: string, panel: ReactNode])[]; first?: number }) {
  const [chosen, setChosen] = useState(tabs[first]?.[0])
  // tabs come and go with what is edited: the one that is looked at stays
  const at = Math.max(0, tabs.findIndex(([name]) => name === chosen))
  return (
    <TabGroup selectedIndex={at} onChange={(index) => setChosen(tabs[index]?.[0])}>
      <TabList className="mb-3 flex gap-1 border-b-[1.5px] border-edge">
        {tabs.map(([name]) => (
          <Tab
            key={name}
            className="-mb-[1.5px] border-b-[3px] border-transparent px-3 pb-1 font-medium text-ink-soft hover:text-ink data-selected:border-rose data-selected:text-ink"
          >
            {name}
          </Tab>
        ))}
      </TabList>
      <TabPanels>
        {tabs.map(([name, panel]) => (
          <TabPanel key={name} tabIndex={-1} className="focus:outline-none">
            {panel}
          </TabPanel>
        ))}
      </TabPanels>
    </TabGroup>
  )
}
