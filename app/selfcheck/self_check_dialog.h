// The self-check of the window: version, system and lines, to be copied.
#pragma once

#include <QDialog>

namespace pyro {

class JobList;

// Shows itself at once and fills when the checks, which run as a job, are done.
class SelfCheckDialog : public QDialog {
    Q_OBJECT
public:
    SelfCheckDialog(JobList& jobs, QWidget* parent);
};

} // namespace pyro
