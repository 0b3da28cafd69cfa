// A case that is still being computed: which one is looked after.
#include "app/session/session.h"

#include "core/evaluate/known_history.h"

namespace pyro {

void Session::setWatching(bool on) {
    m_watching = on;
    watchCase();
    emit changed(Change::Cases);
}

void Session::watchCase() {
    const auto* entry = activeEntry();
    if (entry == nullptr || !m_watching)
        return m_watch.stop();
    const auto folder = m_document.folder();
    m_watch.follow(pathOf(*entry),
                   entry->history.empty() ? std::filesystem::path() : *historyFile(*entry, folder, pathOf(*entry)));
}

void Session::lookForSteps(const std::filesystem::path& path, std::vector<FileStamp> stamps) {
    const auto* entry = activeEntry();
    auto* pipeline = activePipeline();
    if (pipeline != nullptr && m_document.pathOf(*entry) == path && !pipeline->lookForSteps(std::move(stamps)))
        m_watch.again();
}

} // namespace pyro
