/**
 * The time zones that a time can be given in: the geographic ones by the names under which the zone
 * database lists them (zone.tab of 2025b), and UTC. PostgreSQL, Temporal and programs that receive
 * invitations know all of these; of older names, some know some.
 */
const CITIES: Record<string, string> = {
  Africa:
    'Abidjan Accra Addis_Ababa Algiers Asmara Bamako Bangui Banjul Bissau Blantyre Brazzaville ' +
    'Bujumbura Cairo Casablanca Ceuta Conakry Dakar Dar_es_Salaam Djibouti Douala El_Aaiun ' +
    'Freetown Gaborone Harare Johannesburg Juba Kampala Khartoum Kigali Kinshasa Lagos Libreville ' +
    'Lome Luanda Lubumbashi Lusaka Malabo Maputo Maseru Mbabane Mogadishu Monrovia Nairobi ' +
    'Ndjamena Niamey Nouakchott Ouagadougou Porto-Novo Sao_Tome Tripoli Tunis Windhoek',
  America:
    'Adak Anchorage Anguilla Antigua Araguaina Argentina/Buenos_Aires Argentina/Catamarca ' +
    'Argentina/Cordoba Argentina/Jujuy Argentina/La_Rioja Argentina/Mendoza ' +
    'Argentina/Rio_Gallegos Argentina/Salta Argentina/San_Juan Argentina/San_Luis ' +
    'Argentina/Tucuman Argentina/Ushuaia Aruba Asuncion Atikokan Bahia Bahia_Banderas Barbados ' +
    'Belem Belize Blanc-Sablon Boa_Vista Bogota Boise Cambridge_Bay Campo_Grande Cancun Caracas ' +
    'Cayenne Cayman Chicago Chihuahua Ciudad_Juarez Costa_Rica Coyhaique Creston Cuiaba Curacao ' +
    'Danmarkshavn Dawson Dawson_Creek Denver Detroit Dominica Edmonton Eirunepe El_Salvador ' +
    'Fort_Nelson Fortaleza Glace_Bay Goose_Bay Grand_Turk Grenada Guadeloupe Guatemala Guayaquil ' +
    'Guyana Halifax Havana Hermosillo Indiana/Indianapolis Indiana/Knox Indiana/Marengo ' +
    'Indiana/Petersburg Indiana/Tell_City Indiana/Vevay Indiana/Vincennes Indiana/Winamac Inuvik ' +
    'Iqaluit Jamaica Juneau Kentucky/Louisville Kentucky/Monticello Kralendijk La_Paz Lima ' +
    'Los_Angeles Lower_Princes Maceio Managua Manaus Marigot Martinique Matamoros Mazatlan ' +
    'Menominee Merida Metlakatla Mexico_City Miquelon Moncton Monterrey Montevideo Montserrat ' +
    'Nassau New_York Nome Noronha North_Dakota/Beulah North_Dakota/Center North_Dakota/New_Salem ' +
    'Nuuk Ojinaga Panama Paramaribo Phoenix Port-au-Prince Port_of_Spain Porto_Velho Puerto_Rico ' +
    'Punta_Arenas Rankin_Inlet Recife Regina Resolute Rio_Branco Santarem Santiago Santo_Domingo ' +
    'Sao_Paulo Scoresbysund Sitka St_Barthelemy St_Johns St_Kitts St_Lucia St_Thomas St_Vincent ' +
    'Swift_Current Tegucigalpa Thule Tijuana Toronto Tortola Vancouver Whitehorse Winnipeg ' +
    'Yakutat',
  Antarctica:
    'Casey Davis DumontDUrville Macquarie Mawson McMurdo Palmer Rothera Syowa Troll Vostok',
  Arctic: 'Longyearbyen',
  Asia:
    'Aden Almaty Amman Anadyr Aqtau Aqtobe Ashgabat Atyrau Baghdad Bahrain Baku Bangkok Barnaul ' +
    'Beirut Bishkek Brunei Chita Colombo Damascus Dhaka Dili Dubai Dushanbe Famagusta Gaza Hebron ' +
    'Ho_Chi_Minh Hong_Kong Hovd Irkutsk Jakarta Jayapura Jerusalem Kabul Kamchatka Karachi ' +
    'Kathmandu Khandyga Kolkata Krasnoyarsk Kuala_Lumpur Kuching Kuwait Macau Magadan Makassar ' +
    'Manila Muscat Nicosia Novokuznetsk Novosibirsk Omsk Oral Phnom_Penh Pontianak Pyongyang ' +
    'Qatar Qostanay Qyzylorda Riyadh Sakhalin Samarkand Seoul Shanghai Singapore Srednekolymsk ' +
    'Taipei Tashkent Tbilisi Tehran Thimphu Tokyo Tomsk Ulaanbaatar Urumqi Ust-Nera Vientiane ' +
    'Vladivostok Yakutsk Yangon Yekaterinburg Yerevan',
  Atlantic:
    'Azores Bermuda Canary Cape_Verde Faroe Madeira Reykjavik South_Georgia St_Helena Stanley',
  Australia:
    'Adelaide Brisbane Broken_Hill Darwin Eucla Hobart Lindeman Lord_Howe Melbourne Perth Sydney',
  Europe:
    'Amsterdam Andorra Astrakhan Athens Belgrade Berlin Bratislava Brussels Bucharest Budapest ' +
    'Busingen Chisinau Copenhagen Dublin Gibraltar Guernsey Helsinki Isle_of_Man Istanbul Jersey ' +
    'Kaliningrad Kirov Kyiv Lisbon Ljubljana London Luxembourg Madrid Malta Mariehamn Minsk ' +
    'Monaco Moscow Oslo Paris Podgorica Prague Riga Rome Samara San_Marino Sarajevo Saratov ' +
    'Simferopol Skopje Sofia Stockholm Tallinn Tirane Ulyanovsk Vaduz Vatican Vienna Vilnius ' +
    'Volgograd Warsaw Zagreb Zurich',
  Indian:
    'Antananarivo Chagos Christmas Cocos Comoro Kerguelen Mahe Maldives Mauritius Mayotte Reunion',
  Pacific:
    'Apia Auckland Bougainville Chatham Chuuk Easter Efate Fakaofo Fiji Funafuti Galapagos ' +
    'Gambier Guadalcanal Guam Honolulu Kanton Kiritimati Kosrae Kwajalein Majuro Marquesas Midway ' +
    'Nauru Niue Norfolk Noumea Pago_Pago Palau Pitcairn Pohnpei Port_Moresby Rarotonga Saipan ' +
    'Tahiti Tarawa Tongatapu Wake Wallis',
};

/** Every zone that can be chosen, in alphabetical order by area. */
export const ZONES: readonly string[] = [
  ...Object.entries(CITIES).flatMap(([area, cities]) =>
    cities.split(' ').map((city) => `${area}/${city}`),
  ),
  'UTC',
];

const known = new Set(ZONES);

/** Whether a time can be given in a zone. */
export const isZone = (zone: string): boolean => known.has(zone);

/** The zone that a system calls by some name, an older one perhaps; UTC where it is none of these. */
export function zoneCalled(name: string): string {
  if (isZone(name)) return name;
  const canonical = (zone: string): string | null => {
    try {
      return new Intl.DateTimeFormat('en', { timeZone: zone }).resolvedOptions().timeZone;
    } catch {
      return null;
    }
  };
  const asked = canonical(name);
  return (asked !== null && ZONES.find((zone) => canonical(zone) === asked)) || 'UTC';
}
