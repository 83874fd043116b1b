#include "core/library/trials.h"

#include "core/library/library.h"

namespace sieve::library {

std::vector<Trial> noteTrial(Library& library, const Trial& trial)
{
    std::vector<Trial> all;
    library.inTransaction([&] {
        SQLite::Statement insert(
            library.database(),
            "INSERT INTO trial (idea, kind, question, tried_on, sharpe) VALUES (?, ?, ?, ?, ?) "
            "ON CONFLICT (idea, kind, question) DO UPDATE SET sharpe = excluded.sharpe");
        insert.bind(1, trial.idea);
        insert.bind(2, trial.kind);
        insert.bind(3, trial.question);
        insert.bind(4, trial.triedOn.serial());
        if (isMissing(trial.sharpe))
            insert.bind(5);
        else
            insert.bind(5, trial.sharpe);
        insert.exec();
        SQLite::Statement query(library.database(),
                                "SELECT question, tried_on, sharpe FROM trial "
                                "WHERE idea = ? AND kind = ? ORDER BY tried_on, question");
        query.bind(1, trial.idea);
        query.bind(2, trial.kind);
        while (query.executeStep())
            all.push_back({trial.idea, trial.kind, query.getColumn(0).getString(),
                           Day::fromSerial(query.getColumn(1).getInt()),
                           query.getColumn(2).isNull() ? missing : query.getColumn(2).getDouble()});
    });
    return all;
}

} // namespace sieve::library
