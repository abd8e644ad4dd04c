/** Invented people of the demo organisation. */
export const OPERATORS: readonly (readonly [string, string])[] = [
  ['Isla', 'Marwick'],
  ['Tormod', 'Skaill'],
  ['Ruaridh', 'Fenwick-Oyelaran'],
  ['Nadia', 'Brekke'],
  ['Callum', 'Innes'],
  ['Wren', 'Halcrow'],
  ['Olaf', 'Stenhouse'],
  ['Priya', 'Raman'],
  ['Magnus', 'Heddle'],
  ['Ewa', 'Lisowska'],
  ['Fergus', 'Tulloch'],
  ['Amara', 'Nwosu'],
  ['Davit', 'Kapanadze'],
  ['Eilidh', 'Corrigall'],
  ['Sander', 'Vos'],
  ['Bridget', "O'Mara"],
  ['Hamish', 'Sclater'],
  ['Leilani', 'Kahale'],
  ['Iain', 'Drever'],
  ['Marta', 'Fonseca'],
  ['Gareth', 'Pugh'],
  ['Sunniva', 'Aasen'],
  ['Kofi', 'Boateng'],
  ['Morag', 'Linklater'],
  ['Yusuf', 'Demirel'],
  ['Catriona', 'Flett'],
  ['Anselm', 'Brandt'],
  ['Rhona', 'Miller'],
  ['Tomasz', 'Wilk'],
  ['Ines', 'Carvalho'],
  ['Duncan', 'Rendall'],
  ['Freya', 'Isbister'],
  ['Joaquin', 'Prieto'],
  ['Sorcha', 'Quigley'],
  ['Bjarne', 'Lund'],
  ['Hanneke', 'de Wit'],
  ['Lachlan', 'Muir'],
  ['Oonagh', 'Devlin'],
  ['Arvid', 'Sandison'],
  ['Thandi', 'Mokoena'],
  ['Peder', 'Holm'],
  ['Kirsty', 'Groat'],
  ['Mihai', 'Ionescu'],
  ['Saoirse', 'Byrne'],
  ['Rory', 'Leask'],
  ['Chiara', 'Donati'],
  ['Einar', 'Wick'],
  ['Jessamy', 'Thorne'],
];

export const TRAINERS: readonly (readonly [string, string])[] = [
  ['Hilda Rousay', 'hilda'],
  ['Ronan Keld', 'ronan'],
  ['Signe Oxna', 'signe'],
  ['Bashir Qadri', 'bashir'],
  ['Maeve Tarn', 'maeve'],
];
export const SUPERVISORS: readonly (readonly [string, string, string])[] = [
  ['Gordon Stroma', 'gordon', 'Cargo shed'],
  ['Ingrid Vaila', 'ingrid', 'Airfield ground'],
  ['Patrick Noss', 'patrick', 'Quarry'],
  ['Lorna Uyea', 'lorna', 'Workshop'],
];
export const FITTERS: readonly (readonly [string, string])[] = [
  ['Viktor Samphrey', 'viktor'],
  ['Annis Bressay', 'annis'],
];

/** The machine classes the Trust uses; a class gains checks and faults when its pack is published. */
export const CLASSES: readonly (readonly [
  id: string,
  title: string,
  family: string,
  units: number,
  site: string,
  short: string,
])[] = [
  ['counterbalance-forklift', 'Counterbalance forklift truck', 'lifting', 9, 'Ferry Quay', 'FLT'],
  ['reach-truck', 'Reach truck', 'lifting', 3, 'Ferry Quay', 'RCH'],
  ['order-picker', 'Order picker', 'lifting', 2, 'Ferry Quay', 'PCK'],
  ['powered-pallet-truck', 'Powered pallet truck', 'lifting', 6, 'Ferry Quay', 'PPT'],
  ['overhead-crane', 'Overhead travelling crane', 'lifting', 2, 'Trust Workshop', 'OHC'],
  ['mobile-crane', 'Mobile crane', 'lifting', 2, 'Ferry Quay', 'CRN'],
  ['telescopic-boom-lift', 'Telescopic boom lift', 'access', 2, 'Gannet Field', 'TBL'],
  ['vertical-mast-lift', 'Vertical mast lift', 'access', 2, 'Gannet Field', 'VML'],
  ['mobile-column-lift', 'Mobile column lift', 'workshop', 2, 'Trust Workshop', 'COL'],
  ['wheel-loader', 'Wheel loader', 'earthmoving', 3, 'Breakwater Quarry', 'LDR'],
  ['wheeled-excavator', 'Wheeled excavator', 'earthmoving', 2, 'Breakwater Quarry', 'WEX'],
  ['mini-backhoe', 'Mini backhoe', 'earthmoving', 2, 'Breakwater Quarry', 'MBH'],
  ['motor-grader', 'Motor grader', 'earthmoving', 1, 'Breakwater Quarry', 'GRD'],
  ['mining-shovel', 'Mining shovel', 'earthmoving', 1, 'Breakwater Quarry', 'SHV'],
  ['articulated-hauler', 'Articulated hauler', 'hauling', 3, 'Breakwater Quarry', 'HAU'],
  ['equipment-trailer', 'Equipment trailer', 'towing', 4, 'Breakwater Quarry', 'TRL'],
  [
    'snow-plough-spreader-truck',
    'Snow plough and spreader truck',
    'road-and-winter',
    2,
    'Gannet Field',
    'SNO',
  ],
  ['reel-mower', 'Ride-on cylinder mower', 'grounds', 2, 'Gannet Field', 'RLM'],
  ['rotary-mower', 'Large rotary mower', 'grounds', 2, 'Gannet Field', 'ROM'],
  ['zero-turn-mower', 'Zero-turn mower', 'grounds', 3, 'Gannet Field', 'ZTM'],
  ['push-mower', 'Pedestrian mower', 'grounds', 3, 'Gannet Field', 'PMW'],
  ['string-trimmer', 'String trimmer', 'grounds', 4, 'Gannet Field', 'TRM'],
  ['towed-generator-set', 'Towed generator set', 'power', 2, 'Gannet Field', 'GEN'],
];

/** Teams, their site, and the classes their people usually work. */
export const TEAMS: readonly (readonly [team: string, site: string, classes: readonly string[]])[] = [
  [
    'Cargo shed',
    'Ferry Quay',
    ['counterbalance-forklift', 'reach-truck', 'order-picker', 'powered-pallet-truck'],
  ],
  ['Quayside', 'Ferry Quay', ['counterbalance-forklift', 'mobile-crane', 'powered-pallet-truck']],
  [
    'Airfield ground',
    'Gannet Field',
    [
      'counterbalance-forklift',
      'snow-plough-spreader-truck',
      'reel-mower',
      'rotary-mower',
      'zero-turn-mower',
      'string-trimmer',
      'push-mower',
      'towed-generator-set',
    ],
  ],
  [
    'Airfield works',
    'Gannet Field',
    ['telescopic-boom-lift', 'vertical-mast-lift', 'towed-generator-set', 'counterbalance-forklift'],
  ],
  [
    'Quarry',
    'Breakwater Quarry',
    [
      'wheel-loader',
      'wheeled-excavator',
      'mini-backhoe',
      'articulated-hauler',
      'motor-grader',
      'mining-shovel',
      'equipment-trailer',
    ],
  ],
  ['Workshop', 'Trust Workshop', ['overhead-crane', 'mobile-column-lift', 'counterbalance-forklift']],
];

/** Faults that many pass by, by class: the chance that whoever would find it does not. */
export const HARD_FAULTS: Readonly<Record<string, Readonly<Record<string, number>>>> = {
  'counterbalance-forklift': { 'CF-F24': 0.45 },
  'wheel-loader': { 'wl-f26': 0.5 },
  'zero-turn-mower': { 'zt-f27': 0.55 },
  'mobile-crane': { 'MC-F12': 0.5 },
};

/** Trainers who are milder than the others, by account: the chance that a prompt is not written down. */
export const MILD_TRAINERS: Readonly<Record<string, number>> = { maeve: 0.75 };

/** Choices between schools: class, site, school, option, why, by whom, months ago. */
export const SCHOOL_CHOICES = [
  [
    'overhead-crane',
    'Trust Workshop',
    'OC-D09',
    'b',
    'the long hook path of bay two has little rope in hand',
    'ronan',
    4,
  ],
  [
    'motor-grader',
    'Breakwater Quarry',
    'mg-d03',
    'b',
    'starter motors burnt out twice in the cold of January',
    'hilda',
    9,
  ],
] as const;
