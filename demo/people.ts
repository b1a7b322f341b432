/** Everybody in the demo. All of it is made up: Marrow Sound Ferries turns three diesel harbour ferries electric. */
export interface DemoPerson {
  id: string;
  name: string;
  aliases: string[];
  role: string;
  organisation: string;
  mail: string | null;
  account?: boolean;
  /** the language letters to them are written in, where it is not English */
  language?: 'de' | 'fr' | 'es' | 'pt';
}

export const PEOPLE: readonly DemoPerson[] = [
  { id: 'ines', name: 'Ines Falk', aliases: [], role: 'project manager', organisation: 'Marrow Sound Ferries', mail: 'ines.falk@marrowsound.example', account: true },
  { id: 'bram', name: 'Bram Osei', aliases: [], role: 'yard lead', organisation: 'Pell Yard', mail: 'bram.osei@pellyard.example' },
  { id: 'ruth', name: 'Ruth Adair', aliases: [], role: 'naval architect', organisation: 'Adair & Lund', mail: 'ruth@adairlund.example' },
  { id: 'jonas', name: 'Jonas Pike', aliases: [], role: 'electrical engineer', organisation: 'Pell Yard', mail: 'jonas.pike@pellyard.example' },
  { id: 'tove', name: 'Tove Lindqvist', aliases: [], role: 'battery supplier', organisation: 'Tarn Cells', mail: 'tove.lindqvist@tarncells.example', language: 'de' },
  { id: 'dele', name: 'Dele Marchetti', aliases: [], role: 'shore power', organisation: 'Kelda Grid', mail: 'dele@keldagrid.example' },
  { id: 'kit', name: 'Kit Ferrand', aliases: [], role: 'crew training', organisation: 'Marrow Sound Ferries', mail: 'kit.ferrand@marrowsound.example' },
  { id: 'wim', name: 'Wim Daal', aliases: [], role: 'stores and deliveries', organisation: 'Marrow Sound Ferries', mail: 'wim.daal@marrowsound.example' },
  { id: 'sam', name: 'Sam Okafor', aliases: [], role: 'harbour operations', organisation: 'Marrow Sound Ferries', mail: 'sam.okafor@marrowsound.example' },
  { id: 'petra', name: 'Petra Nyman', aliases: [], role: 'finance', organisation: 'Marrow Sound Ferries', mail: 'petra.nyman@marrowsound.example' },
  { id: 'yusuf', name: 'Yusuf Aydin', aliases: [], role: 'draughtsman', organisation: 'Pell Yard', mail: 'yusuf.aydin@pellyard.example' },
  { id: 'hanne', name: 'Hanne Vik', aliases: [], role: 'director', organisation: 'Marrow Sound Ferries', mail: 'hanne.vik@marrowsound.example' },
  { id: 'mirela', name: 'Mirela Costa', aliases: [], role: 'surveyor', organisation: 'Harbour Inspectorate', mail: null },
  { id: 'olu', name: 'Olu Brandt', aliases: [], role: 'timetable editor', organisation: 'Marrow Sound Ferries', mail: 'olu.brandt@marrowsound.example' },
  { id: 'greta', name: 'Greta Sauer', aliases: [], role: 'printer', organisation: 'Sauer Press', mail: 'greta@sauerpress.example' },
];
