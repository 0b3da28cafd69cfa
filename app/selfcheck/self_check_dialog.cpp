#include "app/selfcheck/self_check_dialog.h"

#include "app/pipeline/job.h"
#include "app/selfcheck/self_check.h"
#include "manual/manual.h"

#include <QApplication>
#include <QClipboard>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QVBoxLayout>

namespace pyro {

SelfCheckDialog::SelfCheckDialog(JobList& jobs, QWidget* parent) : QDialog(parent) {
    setObjectName("selfCheckDialog");
    setWindowTitle("Version and self-check");
    setAttribute(Qt::WA_DeleteOnClose);
    resize(1080, 440);
    auto* text = new QPlainTextEdit;
    text->setObjectName("selfCheckText");
    text->setReadOnly(true);
    text->setLineWrapMode(QPlainTextEdit::NoWrap);
    text->setStyleSheet("font-family: monospace");
    text->setPlainText(QString::fromStdString(buildText()) + "\n\nChecking this computer\u2026");
    auto* copy = new QPushButton("Copy");
    copy->setAccessibleName("copySelfCheck");
    copy->setEnabled(false);
    connect(copy, &QPushButton::clicked, this, [text] { QApplication::clipboard()->setText(text->toPlainText()); });
    auto* close = new QPushButton("Close");
    connect(close, &QPushButton::clicked, this, &QDialog::accept);
    auto* buttons = new QHBoxLayout;
    buttons->addStretch();
    buttons->addWidget(copy);
    buttons->addWidget(close);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(16, 12, 16, 12);
    layout->addWidget(text);
    layout->addLayout(buttons);
    jobs.run<std::string>(
        "Checking this computer", this,
        [](Progress& progress) -> Result<std::string> {
            const auto lines = runSelfCheck(progress);
            if (progress.cancelled())
                return fail(ErrorCode::Cancelled, "cancelled", "self-check");
            return selfCheckText(lines);
        },
        [text, copy](Result<std::string> told) {
            text->setPlainText(told ? QString::fromStdString(*told) : QString("The self-check was cancelled."));
            copy->setEnabled(told.has_value());
        });
}

} // namespace pyro
