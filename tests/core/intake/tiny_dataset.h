#pragma once

#include "tests/own_folder.h"

#include <string>

namespace sieve::test {

/// The example of docs/dataset.md: every file of the open dataset, a few rows each.
inline void writeTinyDataset(const OwnFolder& folder)
{
    folder.write("dataset.toml", "name = \"Tiny\"\nversion = \"1\"\ncurrency = \"vl\"\n"
                                 "benchmark = \"CRWX.C\"\n\n[[exchange]]\nname = \"Carrow\"\n"
                                 "zone = \"Atlantic/Azores\"\nopens = \"09:30\"\n"
                                 "closes = \"16:00\"\n");
    folder.write("instruments.csv",
                 "symbol,name,exchange,kind,sector,industry,currency,listed_on,offer_price,"
                 "delisted_on,delisted_why,optionable,shortable,about\n"
                 "KELP.C,Ossmere Kelp,Carrow,share,Food and sea,Kelp farming,vl,2024-01-02,9.5,,,"
                 "yes,no,\"Kelp, and \"\"more\"\"\"\n"
                 "GONE.C,Torvness Cable,Carrow,share,Energy,Grid and cable,vl,,,2024-01-05,bought,"
                 "no,no,\n"
                 "CRWX.C,Carrow 200,Carrow,index,,,vl,,,,,no,no,\n");
    folder.write("renames.csv", "old_symbol,new_symbol,day\nSEAW.C,KELP.C,2024-01-04\n");
    folder.write("bars/daily/SEAW.C.csv", "date,open,high,low,close,volume\n"
                                          "2024-01-02,10,10.5,9.8,10.2,1000\n"
                                          "2024-01-03,10.2,10.4,10,10.1,800\n");
    folder.write("bars/daily/KELP.C.csv", "date,open,high,low,close,volume\n"
                                          "2024-01-04,5.1,5.3,5,5.2,2100\n"
                                          "2024-01-05,5.2,5.6,5.2,5.5,3000\n");
    folder.write("bars/daily/GONE.C.csv", "date,open,high,low,close,volume\n"
                                          "2024-01-02,3,3.1,2.9,3,500\n"
                                          "2024-01-04,3,3.6,3,3.5,900\n");
    folder.write("bars/daily/CRWX.C.csv", "date,open,high,low,close,volume\n"
                                          "2024-01-02,1000,1010,995,1005,\n"
                                          "2024-01-05,1005,1020,1000,1018,\n");
    folder.write("bars/minute/KELP.C.csv", "time,open,high,low,close,volume\n"
                                           "2024-01-05T09:30-01:00,5.2,5.25,5.2,5.21,300\n"
                                           "2024-01-05T10:32Z,5.21,5.3,5.2,5.3,150\n");
    folder.write("actions.csv",
                 "symbol,ex_date,kind,value\nKELP.C,2024-01-04,split,2\n"
                 "KELP.C,2024-01-05,dividend,0.05\nGONE.C,2024-01-04,spin-off,0.4\n");
    folder.write("statements.csv", "symbol,period_end,period,known_on,item,value\n"
                                   "SEAW.C,2023-09-30,quarter,2023-11-10,revenue,1200000\n"
                                   "KELP.C,2023-09-30,quarter,2024-01-05,revenue,1150000\n");
    folder.write("estimates.csv",
                 "symbol,known_on,measure,period,period_end,mean,high,low,analysts\n"
                 "SEAW.C,2024-01-02,eps,year,2024-12-31,0.8,0.9,0.7,4\n"
                 "KELP.C,2024-01-05,eps,year,2024-12-31,0.95,1,0.8,5\n");
    folder.write("owners.csv", "symbol,as_of,known_on,kind,share,holders\n"
                               "SEAW.C,2023-12-31,2024-01-03,insiders,0.21,7\n"
                               "SEAW.C,2023-12-31,2024-01-03,public,0.4,\n");
    folder.write("shares.csv", "symbol,date,outstanding,free_float,short_interest,known_on\n"
                               "SEAW.C,2024-01-02,10000000,6000000,120000,2024-01-03\n");
    folder.write("ratings.csv", "symbol,date,house,action,target\n"
                                "KELP.C,2024-01-05,Harbour Research,raises,7.5\n");
    folder.write("calendar.csv", "symbol,date,when,kind\nKELP.C,2024-02-09,after close,report\n");
    folder.write("index_members.csv", "index,symbol,from,to\nCRWX.C,KELP.C,2024-01-04,\n"
                                      "CRWX.C,GONE.C,2020-01-01,2024-01-05\n");
    folder.write("holidays.csv", "exchange,date,closes_at\nCarrow,2024-01-01,\n"
                                 "Carrow,2024-12-24,13:00\n");
    folder.write("currency_rates.csv", "currency,date,rate\ndn,2024-01-02,0.31\n"
                                       "dn,2024-01-05,0.32\n");
    folder.write("news/ossmere.xml",
                 "<?xml version=\"1.0\" encoding=\"utf-8\"?>\n"
                 "<feed xmlns=\"http://www.w3.org/2005/Atom\"><title>Isles wire</title>\n"
                 "<entry><id>w:1</id><title>Ossmere opens a kelp dryer</title>"
                 "<updated>2024-01-05T08:15:00Z</updated><summary>Twice the former size."
                 "</summary><category term=\"KELP.C\"/></entry>\n</feed>\n");
}

} // namespace sieve::test
